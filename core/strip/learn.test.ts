import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import type { EntryBody, JobEntry } from "../log/entry";
import { ENOUGH_JOBS, expectedMinutes, learnMinutes, quantile, rangeOf, varianceOf } from "./estimate";
import { checkPlan } from "./graph";
import { applySuggestions, suggestChanges } from "./learn";
import { minutesOfJob } from "./measured-minutes";

const plan = demoDocuments().car.stripPlan;
const START = Date.parse("2026-03-02T08:00:00Z");
const log = (...items: [seconds: number, body: EntryBody, by?: string][]): JobEntry[] => {
  let at = START;
  return items.map(([seconds, body, by], i) => {
    at += seconds * 1000;
    return { ...body, id: `e${i}`, at: new Date(at).toISOString(), by: by ?? "One" };
  });
};
const tick = (step: string): EntryBody => ({ kind: "strip.step", data: { step, direction: "in" } });

describe("three-point estimates", () => {
  it("follow (a + 4m + b) / 6 and ((b - a) / 6)²", () => {
    // Malcolm, Roseboom, Clark and Fazar 1959; the figures are activity C of the textbook project.
    expect(expectedMinutes({ low: 6, likely: 9, high: 18 })).toBe(10);
    expect(varianceOf({ low: 6, likely: 9, high: 18 })).toBe(4);
  });

  it("add up with their spread, not with their extremes", () => {
    const nine = Array.from({ length: 9 }, () => ({ low: 4, likely: 10, high: 16 }));
    const { low, likely, high } = rangeOf(nine);
    expect(likely).toBe(90);
    expect(high - likely).toBeCloseTo(1.645 * 6, 6);
    expect(low).toBeGreaterThan(9 * 4);
  });
});

describe("quantiles", () => {
  it("are those of type 7, the default of R and of numpy", () => {
    // R: quantile(c(1, 3, 4, 8, 20), c(.1, .5, .9)) gives 1.8, 4.0, 15.2. From memory, and by hand.
    const sample = [1, 3, 4, 8, 20];
    expect(quantile(sample, 0.1)).toBeCloseTo(1.8, 9);
    expect(quantile(sample, 0.5)).toBe(4);
    expect(quantile(sample, 0.9)).toBeCloseTo(15.2, 9);
  });
});

describe("estimates from closed jobs", () => {
  const written = { low: 2, likely: 4, high: 8 };

  it("stay with the plan when there is none, and move towards the median with few", () => {
    expect(learnMinutes(written, [])).toEqual({ ...written, jobs: 0 });
    expect(learnMinutes(written, [9])).toEqual({ low: 2, likely: 5, high: 9, jobs: 1 });
    expect(learnMinutes(written, [9, 9, 9]).likely).toBeCloseTo(7, 9);
  });

  it("never get a narrower range from few times", () => {
    const few = learnMinutes(written, [4, 4, 4]);
    expect([few.low, few.high]).toEqual([2, 8]);
  });

  it("stand on the jobs alone from five on, and one outlier does not move them far", () => {
    const five = learnMinutes(written, [5, 6, 6, 7, 60]);
    expect(ENOUGH_JOBS).toBe(5);
    expect(five).toMatchObject({ likely: 6, jobs: 5 });
    expect(five.low).toBeCloseTo(5.4, 9);
  });
});

describe("minutes of a job", () => {
  it("go from the entry before, of the same person", () => {
    const measured = minutesOfJob(
      plan,
      log([0, tick("brake")], [60, tick("console"), "Two"], [240, tick("vents")], [60, tick("glovebox"), "Two"]),
    );
    expect(measured.get("vents")).toBe(5);
    expect(measured.get("glovebox")).toBe(5);
    expect(measured.has("console")).toBe(false);
  });

  it("say nothing about a step with a long pause, or a clock that ran backwards", () => {
    const measured = minutesOfJob(plan, log([0, tick("brake")], [3 * 3600, tick("vents")], [-600, tick("glovebox")]));
    expect([...measured]).toEqual([]);
  });

  it("are shared by steps that were ticked together afterwards", () => {
    const measured = minutesOfJob(
      plan,
      log([0, tick("brake")], [600, tick("console")], [2, tick("vents")], [2, tick("glovebox")]),
    );
    const whole = [...measured.values()].reduce((a, b) => a + b, 0);
    expect(whole).toBeCloseTo(604 / 60, 6);
    // In proportion to what the plan says: 3, 4 and 6 minutes.
    expect((measured.get("glovebox") ?? 0) / (measured.get("console") ?? 1)).toBeCloseTo(2, 6);
  });

  it("leave out a tick that was undone", () => {
    const entries = log([0, tick("brake")], [300, tick("vents")], [5, { kind: "undo", data: { entry: "e1" } }]);
    expect(minutesOfJob(plan, entries).has("vents")).toBe(false);
  });
});

describe("suggestions for the plan", () => {
  const differs = (count: number): EntryBody => ({
    kind: "strip.note",
    data: { step: "glovebox", note: "", differs: { fasteners: [{ group: 0, count }], tool: "T25" } },
  });
  const job = (...bodies: EntryBody[]) => log(...bodies.map((b): [number, EntryBody] => [120, b]));
  const own: EntryBody = {
    kind: "strip.add",
    data: { id: "own-1", before: "radio-out", title: "Ashtray out", detail: "", panel: "ashtray" },
  };
  const jobs = [
    job(tick("brake"), tick("glovebox"), differs(4), own, tick("own-1")),
    job(tick("brake"), tick("glovebox"), differs(4)),
    job(tick("brake"), tick("glovebox"), { kind: "strip.skip", data: { step: "shroud", reason: "no microphone" } }),
  ];
  const list = suggestChanges(plan, jobs);
  const named = (id: string) => list.find((s) => s.id === id);

  it("count the jobs that speak for each", () => {
    expect(named("count-0-4/glovebox")).toMatchObject({ jobs: 2, of: 3, common: true });
    expect(named("tool-T25/glovebox")).toMatchObject({ kind: "tool", jobs: 2, common: true });
    expect(named("minutes/glovebox")).toMatchObject({ jobs: 3 });
    expect(named("added/own-1")).toMatchObject({ jobs: 1, of: 3, common: false });
    expect(named("leftOut/shroud")).toMatchObject({ jobs: 1, of: 1, common: false });
  });

  it("make a plan that can be followed, with just what was chosen", () => {
    const next = applySuggestions(plan, list, ["count-0-4/glovebox", "added/own-1", "leftOut/shroud"]);
    checkPlan(next);
    const step = (id: string) => next.steps.find((s) => s.id === id);
    expect(step("glovebox")?.fasteners?.[0]?.count).toBe(4);
    expect(step("glovebox")?.tool).toBe("8 mm socket");
    expect(step("radio-out")?.after).toContain("own-1");
    expect(step("own-1")?.after).toEqual(["radio-screws", "screen-screws"]);
    expect(step("shroud")).toBeUndefined();
  });

  it("find nothing where everything was as written", () => {
    expect(suggestChanges(plan, [job(tick("brake"))])).toEqual([]);
  });
});
