import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { seeStep } from "../../sim/bench";
import { jobOf, press, refusalOf } from "../../tests/support/jobs";
import { certificateOf } from "../job/certificate";
import { handoverReport } from "../job/report";
import { outcomeOf, sequencesOf } from "../job/sequences";
import type { Command } from "../log/entry";
import { sequenceOutcome } from "./sequence-outcome";

const NOW = "2026-11-27T09:00:00Z";
const fresh = jobOf(demoDocuments());
const made = press(
  fresh,
  ...fresh.plan.connections.map((c): Command => ({ kind: "connect.plug", data: { link: c.link, plugged: true } })),
  ...fresh.plan.sets.map((s): Command => ({ kind: "configure.set", data: { setting: s.setting, done: true } })),
  { kind: "configure.switches", data: { settings: { ...fresh.plan.settings } } },
);
const named = (id: string) => {
  const found = sequencesOf(fresh.plan).find((s) => s.id === id);
  if (!found) throw new Error(`no sequence ${id}`);
  return found;
};

describe("things one after the other", () => {
  it("say at each step what the model shows there", () => {
    expect(sequencesOf(fresh.plan).map((s) => s.id)).toEqual([
      "keyCycle",
      "start",
      "reverse",
      "reverseFactory",
      "phoneAway",
      "call",
    ]);
    expect(named("reverse").steps.map((s) => [s.id, s.pictures])).toEqual([
      ["begin", ["phone"]],
      ["reverse", ["rear camera"]],
      ["drive", ["front camera"]],
      ["park", ["phone"]],
      ["dark", ["rear camera"]],
      ["lit", ["phone"]],
    ]);
    expect(named("keyCycle").steps.map((s) => [s.id, s.pictures])).toEqual([
      ["begin", ["phone"]],
      ["off", ["dark"]],
      ["on", ["factory", "phone"]],
      ["again", ["phone"]],
    ]);
  });

  it("hold on a sound stand-in car, and break where its hidden fault shows", () => {
    const all = sequencesOf(made.plan);
    for (const s of all)
      for (const step of s.steps)
        expect([s.id, step.id, seeStep(made.plan, made.state, null, s.id, step.id)]).toEqual([s.id, step.id, "asSaid"]);
    const dark = seeStep(made.plan, made.state, "open:videoOutLead", "reverse", "begin");
    expect(dark).toBe("dark");
  });

  it("end at the first step that is not as said, which has a test that looks at the same thing", () => {
    const reverse = named("reverse");
    const step = (id: string, seen: "asSaid" | "blue"): Command => ({
      kind: "prove.step",
      data: { sequence: "reverse", step: id, seen },
    });
    const broken = press(made, step("begin", "asSaid"), step("reverse", "blue"));
    expect(outcomeOf(broken.state, reverse)).toEqual({ kind: "breaks", at: "reverse", seen: "blue" });
    const test = made.plan.tests.find((t) => t.id === reverse.steps[1]?.test);
    expect(test?.fn.observe[0]?.where.picture).toBe("rear camera");
    const open = handoverReport(broken, NOW)
      .openPoints.map((p) => p.text)
      .join("\n");
    expect(open).toMatch(/Reverse during the phone picture breaks at “select reverse”: blue or black picture/);
    // The first step begins it anew.
    const again = press(broken, ...reverse.steps.map((s) => step(s.id, "asSaid")));
    expect(outcomeOf(again.state, reverse)).toEqual({ kind: "right" });
    const lines = certificateOf(again, NOW).sections.find((s) => s.title === "One after the other")?.lines;
    expect(lines).toEqual(["Reverse during the phone picture: every step as it must be."]);
    expect(
      refusalOf(made, { kind: "prove.step", data: { sequence: "reverse", step: "fly", seen: "asSaid" } }, NOW),
    ).toMatch(/no step of a sequence/);
    expect(sequenceOutcome(reverse, new Map([["begin", "asSaid"]]))).toEqual({ kind: "open", at: "reverse" });
  });

  it("are said for several kinds of work, and for a car without a screen not at all", () => {
    const library = shippedLibrary();
    const kits = library.filter((p) => p.document === "kit");
    let counted = 0;
    for (const variant of library) {
      if (variant.document !== "variant") continue;
      const car = library.find((p) => p.id === variant.car);
      if (car?.document !== "car") continue;
      for (const kit of kits.slice(0, 14)) {
        let job: ReturnType<typeof jobOf>;
        try {
          job = jobOf({ car, variant, kit });
          void job.plan;
        } catch {
          continue;
        }
        for (const s of sequencesOf(job.plan)) {
          counted++;
          expect(s.steps[0]?.pictures ?? ["heard"]).not.toEqual([]);
        }
      }
    }
    expect(counted).toBeGreaterThan(40);
  });
});
