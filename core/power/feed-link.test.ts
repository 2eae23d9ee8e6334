/** An aftermarket radio whose accessory feed never comes, solved at the fuse panel. */
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { jobOf, logOf, refusalOf } from "../../tests/support/jobs";
import { checkPlan } from "../job/connect";
import { openNow, planJob } from "../job/plan";
import type { Command } from "../log/entry";
import { foldJob } from "../log/fold";
import { Model } from "../model/outcome";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import { liveStates } from "./feed-link";
import { tapOrientation } from "./fuse";
import { groundPoint } from "./ground";
import { addedDraws, loadBySituation } from "./job";

const library = shippedLibrary();
const documents = {
  car: library.find((p) => p.id === "kestrane-fjell-11") as CarProfile,
  variant: library.find((p) => p.id === "kestrane-fjell-11-f1") as VariantProfile,
  kit: library.find((p) => p.id === "pellimar-free-7") as KitProfile,
};
const NOW = "2026-03-02T08:00:00Z";
const entries = logOf;
const BY_FUSE: Command = { kind: "fit.confirm", data: { choices: { feed: "fuse" } } };
const test = (position: string, state: "on" | "off" | "doorOpen" | "accessory", lit: boolean): Command => ({
  kind: "connect.feedTest",
  data: { position, state, lit },
});
const switched = (position: string) => [
  test(position, "on", true),
  test(position, "off", false),
  test(position, "doorOpen", false),
];
const take = (position: string | null): Command => ({ kind: "connect.feed", data: { position } });
const planned = (...bodies: Command[]) => {
  const job = jobOf(documents, entries(...bodies));
  return { job, state: job.state, plan: job.plan };
};
const position = documents.car.fusePanel?.find((p) => p.used && p.live.includes("on") && !p.live.includes("off"));
if (!position) throw new Error("no switched position");
const F = position.id;

describe("a feed taken at the fuse panel", () => {
  it("leaves the connection open until a position is taken, and does not let it be ticked", () => {
    const { job, plan, state } = planned(BY_FUSE);
    const link = plan.connections.find((c) => c.b === "loom.fusePanel")?.link ?? "";
    expect(openNow(plan, state).openLinks?.[link]).toBe("No fuse position is taken yet.");
    const ticked: Command = { kind: "connect.plug", data: { link, plugged: true } };
    expect(refusalOf(job, ticked, NOW)).toMatch(/take a fuse position first/);
    const taken = planned(BY_FUSE, ...switched(F), take(F));
    expect(refusalOf(taken.job, ticked, NOW)).toBeNull();
    expect(
      openNow(taken.plan, foldJob(entries(BY_FUSE, ...switched(F), take(F), ticked))).openLinks,
    ).not.toHaveProperty(link);
  });

  it("gives the radio its accessory in the key states that the tester found, and in no others", () => {
    const plays = (key: "off" | "accessory" | "on", ...more: Command[]) => {
      const { plan } = planned(BY_FUSE, ...switched(F), ...more, take(F));
      return new Model(plan.fitted, {}, plan.settings).alive("radio", { ...plan.fitted.defaultSituation, key });
    };
    expect([plays("on"), plays("off")]).toEqual([true, false]);
    expect([plays("accessory", test(F, "accessory", true)), plays("accessory", test(F, "accessory", false))]).toEqual([
      true,
      false,
    ]);
  });

  it("passes the rules with the fuse of the tap, and is what the missing data of the module can be solved by", () => {
    const { plan } = planned(BY_FUSE, ...switched(F), take(F));
    expect(checkPlan(plan, foldJob([]), []).filter((f) => f.level !== "note")).toEqual([]);
    const module = planJob(documents, foldJob([]));
    const unloaded = new Model(module.fitted, { settings: { "busModule.data": "as delivered" } }, module.settings);
    expect(unloaded.alive("radio")).toBe(false);
    expect(new Model(plan.fitted, { settings: {} }, plan.settings).alive("radio")).toBe(true);
  });

  it("goes by the map where nobody tested", () => {
    expect(liveStates(position, {})).toEqual(
      ["accessory", "on", "running"].filter((k) => position.live.includes(k as "on")),
    );
    expect(liveStates(position, { on: false })).not.toContain("on");
    expect(liveStates({ ...position, live: [] }, { on: true, off: false })).toEqual(["on", "running"]);
  });
});

describe("the tap", () => {
  it("sits right when the new branch lives without the original fuse", () => {
    expect(tapOrientation(true).right).toBe(true);
    expect(tapOrientation(false)).toMatchObject({ right: false, say: expect.stringContaining("both loads") });
  });

  it("is tested anew for another position", () => {
    const log = [take(F), { kind: "connect.tap", data: { lit: false } } satisfies Command];
    expect(foldJob(entries(...log)).tapLit).toBe(false);
    expect(foldJob(entries(...log, take(null))).tapLit).toBeNull();
    const { job } = planned();
    expect(refusalOf(job, { kind: "connect.tap", data: { lit: true } }, NOW)).toMatch(/no tap on this job/);
  });
});

describe("the load by situation", () => {
  const taxi = planJob(demoDocuments(), { choices: null });
  const draws = addedDraws(taxi.stock, taxi.fitted, taxi.touched.parts);
  const loads = new Map(loadBySituation(taxi.fitted, draws, taxi.settings).map((l) => [l.id, l]));

  it("has the camera on only where the module feeds it, and the module asleep without the key message", () => {
    expect(loads.get("asleep")).toMatchObject({ steadyA: 0, sleepMa: 4, on: [] });
    expect(loads.get("factory")).toMatchObject({ steadyA: 0.7, on: ["Interface module"] });
    expect(loads.get("forward")?.on).toEqual(["Interface module", "Front camera"]);
    expect(loads.get("forward")?.steadyA).toBeCloseTo(0.82, 9);
  });

  it("does not count a radio that takes the place of another as added", () => {
    const swap = planJob(documents, { choices: null });
    expect(addedDraws(swap.stock, swap.fitted, swap.touched.parts).map((d) => d.id)).not.toContain("radio");
  });
});

describe("the ground point", () => {
  it("is the nearest metal that is not hot", () => {
    expect(groundPoint(demoDocuments().car, "fuse panel")).toEqual({ place: "knee space", lengthM: 0.3 });
    expect(groundPoint({ ...demoDocuments().car, places: [] }, "fuse panel")).toBeNull();
    expect(groundPoint(demoDocuments().car, "nowhere")).toBeNull();
  });
});
