import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import type { StripPlan, StripStep } from "../model/profile";
import { reaches } from "./goals";
import { checkPlan, PlanError, withPrerequisites } from "./graph";
import { randomPlan } from "./random-plan";
import { selectSteps } from "./select";

const step = (id: string, after: string[] = [], more: Partial<StripStep> = {}): StripStep => ({
  id,
  title: `Step ${id}`,
  detail: "",
  after,
  minutes: { low: 1, likely: 2, high: 3 },
  ...more,
});
const place = (name: string) => ({ id: name, say: name, place: name });
const selected = (plan: StripPlan, ...goals: string[]) => selectSteps(plan, goals.map(place));

describe("the smallest set of steps", () => {
  it("takes a goal's step with everything before it, and nothing else", () => {
    const plan = {
      steps: [
        step("a"),
        step("b", ["a"]),
        step("c", ["b"], { reaches: { places: ["shaft"] } }),
        step("d", ["a"], { reaches: { places: ["knee"] } }),
      ],
    };
    expect(selected(plan, "shaft").steps).toEqual(["a", "b", "c"]);
    expect(selected(plan, "knee").steps).toEqual(["a", "d"]);
    expect(selected(plan).steps).toEqual([]);
    expect([...selected(plan, "shaft", "knee").because]).toContainEqual(["a", ["shaft", "knee"]]);
  });

  it("chooses between two ways by what is open anyway", () => {
    const long = { low: 8, likely: 9, high: 10 };
    const plan = {
      steps: [
        step("short", [], { reaches: { places: ["module"] } }),
        step("long", [], { minutes: long, reaches: { places: ["module", "radio"] } }),
      ],
    };
    expect(selected(plan, "module").steps).toEqual(["short"]);
    expect(selected(plan, "module", "radio").steps).toEqual(["long"]);
  });

  it("prefers a longer way that spares the battery and its waiting time", () => {
    const plan = {
      steps: [
        step("zone", [], { airbagZone: true, reaches: { places: ["module"] } }),
        step("bare", [], { minutes: { low: 4, likely: 6, high: 9 }, reaches: { places: ["module"] } }),
      ],
    };
    expect(selected(plan, "module").steps).toEqual(["bare"]);
  });

  it("names goals that nothing reaches and leaves out those that are free", () => {
    const plan = { steps: [step("a", [], { reaches: { places: ["x"] } })], free: { places: ["windscreen"] } };
    const found = selected(plan, "windscreen", "moon", "x");
    expect(found.steps).toEqual(["a"]);
    expect(found.unreached.map((g) => g.say)).toEqual(["moon"]);
  });

  it("is as cheap as the best of all sets, tried one by one", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 100_000 }), (seed) => {
        const { plan, goals } = randomPlan(seed, { steps: 10, before: 2, goals: 5 });
        const found = selectSteps(plan, goals);
        let best = Number.POSITIVE_INFINITY;
        for (let mask = 0; mask < 1 << plan.steps.length; mask++) {
          const ids = plan.steps.filter((_, i) => mask & (1 << i)).map((s) => s.id);
          const whole = withPrerequisites(plan, ids);
          if (whole.size !== ids.length) continue;
          const steps = plan.steps.filter((s) => whole.has(s.id));
          if (!goals.every((g) => steps.some((s) => reaches(s, g)))) continue;
          best = Math.min(
            best,
            selectSteps(
              { ...plan, steps },
              steps.map((s) => ({ id: s.id, say: "", step: s.id })),
            ).minutes,
          );
        }
        expect(found.exact).toBe(true);
        expect(found.minutes).toBeCloseTo(best, 9);
      }),
      { numRuns: 25 },
    );
  });
});

describe("the plan of the car at hand", () => {
  it("leaves out steps and plugs that only other cars of the profile have, and what waited for them moves up", () => {
    const { car, variant, kit } = demoDocuments();
    const steps = car.stripPlan.steps.flatMap((s) =>
      s.id === "radio-screws"
        ? [
            step("bracket", ["console"], { when: { car: "gearbox", is: ["manual"] } }),
            { ...s, after: ["vents", "bracket"], opens: [{ a: "loom.nowhere", b: "radio.main" }] },
          ]
        : [s],
    );
    const plan = planJob({ car: { ...car, stripPlan: { ...car.stripPlan, steps } }, variant, kit }, { choices: null });
    const screws = plan.strip.plan.steps.find((s) => s.id === "radio-screws");
    expect(plan.strip.plan.steps.some((s) => s.id === "bracket")).toBe(false);
    expect(screws).toMatchObject({ after: ["vents", "console"], opens: [] });
  });
});

describe("a plan that cannot be followed", () => {
  const refused = (steps: StripStep[], more: Partial<StripPlan> = {}) => {
    try {
      checkPlan({ steps, ...more });
    } catch (error) {
      if (error instanceof PlanError) return error;
      throw error;
    }
    return null;
  };

  it("is refused with the loop, in its order and nothing but it", () => {
    const error = refused([step("x"), step("a", ["x", "c"]), step("b", ["a"]), step("c", ["b"]), step("d", ["c"])]);
    expect(error?.problem).toBe("these steps wait for each other: Step a → Step b → Step c → Step a.");
    expect(refused([step("self", ["self"])])?.problem).toContain("Step self → Step self");
  });

  it("is refused with the missing step, or the identifier used twice", () => {
    expect(refused([step("a", ["ghost"])])?.message).toMatch(/Step a.*“ghost”, which is not in the plan/s);
    expect(refused([step("a"), step("a")])?.problem).toContain("“a” is used by two steps");
  });

  it("is refused when no state of the car allows a step", () => {
    const both = step("both", [], { airbagZone: true, requires: { selector: ["N"] } });
    expect(refused([both])?.problem).toMatch(/battery isolated, selector in N at the same time/);
    // A tab under a cover lets the selector out without ignition: then it is possible.
    expect(refused([both], { selectorRelease: "tab" })).toBeNull();
    expect(refused([step("engine", [], { requires: { key: "running" } })])?.problem).toContain("key running");
  });

  it("passes when it is a long chain", () => {
    const chain = Array.from({ length: 3000 }, (_, i) => step(`s${i}`, i === 0 ? [] : [`s${i - 1}`]));
    expect(refused(chain)).toBeNull();
    expect(refused(chain.toReversed())).toBeNull();
  });
});
