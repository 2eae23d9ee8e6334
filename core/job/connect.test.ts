/** What is told about the car as it is plugged: no more and no less than what is wrong with it now. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { jobOf, logOf } from "../../tests/support/jobs";
import { placesFor } from "../connect/as-plugged";
import type { Command } from "../log/entry";
import { foldJob } from "../log/fold";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import { checkNow, checkPlan, planInput } from "./connect";
import { openNow, planJob } from "./plan";

const NOW = "2026-03-02T08:00:00Z";
const library = shippedLibrary();
const get = (id: string) => library.find((p) => p.id === id);
const taxi = planJob(demoDocuments(), { choices: null });
const ring = planJob(
  {
    car: get("kestrane-halden-14") as CarProfile,
    variant: get("kestrane-halden-14-k1") as VariantProfile,
    kit: get("orvanto-om8-ring") as KitProfile,
  },
  { choices: null },
);
const entries = (commands: readonly Command[]) => logOf(...commands);
const plug = (link: string, at?: string): Command => ({
  kind: "connect.plug",
  data: { link, plugged: true, ...(at ? { at } : {}) },
});
const now = (plan: typeof taxi, ...bodies: Command[]) => checkNow(plan, foldJob(entries(bodies)));

describe("the check of the car as plugged", () => {
  it("says nothing at any moment of a job in which everything is plugged as planned, in any order", () => {
    const moved: Command = { kind: "configure.set", data: { setting: "harness.ring", done: true } };
    for (const [plan, first] of [
      [taxi, []],
      [ring, [moved]],
    ] as const) {
      fc.assert(
        fc.property(fc.shuffledSubarray(plan.connections.map((c) => c.link)), (links) => {
          expect(now(plan, ...first, ...links.map((l) => plug(l)))).toEqual([]);
        }),
        { numRuns: 25, seed: 3 },
      );
    }
  });

  it("finds every single lead that sits in another place than planned, whatever else is plugged", () => {
    const wrong = taxi.connections.flatMap((c) =>
      placesFor(taxi.fitted, c).flatMap((at) => (at === c.b ? [] : [{ link: c.link, at }])),
    );
    expect(wrong.length).toBeGreaterThan(3);
    fc.assert(
      fc.property(
        fc.constantFrom(...wrong),
        fc.shuffledSubarray(taxi.connections.map((c) => c.link)),
        ({ link, at }, others) => {
          const found = now(taxi, ...others.filter((o) => o !== link).map((o) => plug(o)), plug(link, at));
          expect(found.some((f) => f.rule === "wrong-place" && f.link === link && f.level === "stop")).toBe(true);
          const again = found.flatMap((f) => f.fix?.press ?? []);
          expect(now(taxi, ...others.filter((o) => o !== link).map((o) => plug(o)), ...again)).toEqual([]);
        },
      ),
      { numRuns: 40, seed: 8 },
    );
  });

  it("tells a cause once: what goes away with the plug in its place is not a finding of its own", () => {
    const found = now(taxi, plug("k-in-radio"), plug("k-in-module", "module.videoOut"), plug("k-out-module"));
    expect(found.map((f) => f.rule)).toEqual(["wrong-place"]);
    expect(found[0]?.damages).toBe("one output drives into the other");
  });

  it("warns of contacts left behind only once their housing is plugged", () => {
    expect(now(ring, plug("k-mic"), plug("k-antenna"))).toEqual([]);
    const late = now(ring, plug("k-car"));
    expect(late.map((f) => f.rule)).toEqual(["ring-open"]);
    expect(late[0]?.text).toMatch(/no light comes back/);
  });

  it("keeps what coding and menus bring for later", () => {
    const open = openNow(ring, foldJob([])).settings ?? {};
    expect(open).toHaveProperty(["harness.ring"]);
    expect(now(ring, plug("k-mic"))).toEqual([]);
  });

  it("counts a place that the technician chose for the plan and for now alike", () => {
    const moved: Command = { kind: "connect.place", data: { part: "kitAntenna", place: "A-pillar" } };
    const state = foldJob(entries([moved]));
    expect(checkPlan(taxi, state, []).map((f) => f.rule)).toContain("antenna-on-metal");
    expect(checkNow(taxi, state)).toEqual([]);
    expect(planInput(taxi, state).placed.get("kitAntenna")).toBe("A-pillar");
  });
});

describe("the next action", () => {
  it("is to put right what is wrong, and still says how far the job is", () => {
    const next = jobOf(taxi.documents, entries([plug("k-in-module", "module.videoOut")])).next(NOW);
    expect(next).toMatchObject({ stage: "connect", reached: "fit" });
    expect(next.action).toMatch(/^Put right: /);
    expect(jobOf(taxi.documents, entries([plug("k-in-module")])).next(NOW).reached).toBeUndefined();
  });
});
