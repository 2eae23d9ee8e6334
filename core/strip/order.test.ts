import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { emptyJournal, noteStrip } from "../log/fold";
import type { StripJournal } from "../log/strip-journal";
import type { StripStep } from "../model/profile";
import { carState, NEVER_QUIET } from "./car-state";
import { needsOf } from "./graph";
import { costOfOrder, EXACT_LIMIT, orderExactly, orderTasks } from "./order";
import type { Setup, Task } from "./order-problem";
import { randomFrom, randomPlan, randomProblem } from "./random-plan";
import { planRoute, type StripBase } from "./route";
import { allows, PARKED, type VehicleState } from "./vehicle-state";
import { type StripInput, stripView } from "./view";

const NOW = "2026-03-02T20:00:00Z";
const bench = { tests: 0, passed: 0, failing: 0, impossible: 0, kitOpen: 0 };
const inputOf = (
  base: Omit<StripBase, "closing" | "measured">,
  closing: StripBase["closing"] = "proveFirst",
): StripInput => ({
  base: { ...base, closing, measured: {} },
  bench,
  quiet: NEVER_QUIET,
  home: [],
});
const tick = (journal: StripJournal, step: string, direction: "in" | "back") =>
  noteStrip(
    journal,
    { kind: "strip.step", data: { step, direction } },
    { at: NOW, by: "Test", entry: `${journal.stepEvents.length}` },
  );

const seeds = fc.integer({ min: 1, max: 1_000_000 });

describe("any valid plan", () => {
  it("is done with nothing before its prerequisite and every step in a stand that allows it", () => {
    fc.assert(
      fc.property(seeds, (seed) => {
        const input = inputOf(randomPlan(seed, { steps: 24, before: 2, goals: 6 }));
        const journal = emptyJournal();
        const done = new Set<string>();
        let stand: VehicleState = PARKED;
        for (const task of stripView(input, journal, NOW).left) {
          if (task.prepStep) stand = { ...stand, ...task.prepStep.sets };
          if (!task.step) continue;
          expect(task.step.after.every((a) => done.has(a))).toBe(true);
          expect(allows(stand, needsOf(task.step))).toBe(true);
          done.add(task.id);
        }
        for (const goal of input.base.goals)
          expect(
            input.base.plan.steps.some((s) => done.has(s.id) && s.reaches?.places?.includes(goal.place ?? "")),
          ).toBe(true);
        expect(stand).toMatchObject({ key: "off", selector: "P" });
      }),
      { numRuns: 60 },
    );
  });

  it("comes back to the state before, whatever was done and in whatever valid order", () => {
    fc.assert(
      fc.property(seeds, fc.constantFrom("proveFirst" as const, "upperEarly" as const), (seed, closing) => {
        const random = randomFrom(seed + 1);
        const { plan, goals } = randomPlan(seed, { steps: 18, before: 2, goals: 5 });
        const levelled = plan.steps.map((s, i): StripStep => ({ ...s, level: i % 3 === 0 ? "upper" : "lower" }));
        const input = inputOf({ plan: { ...plan, steps: levelled }, goals }, closing);
        const journal = emptyJournal();
        // The technician takes any step that is possible, not always the proposed one, and stops somewhere.
        const stopAfter = Math.floor(random() * 20);
        for (let n = 0; n < stopAfter; n++) {
          const { left } = stripView(input, journal, NOW);
          const ever = new Set(journal.stepEvents.map((d) => d.step));
          const steps = left.filter((t) => t.step?.after.every((a) => ever.has(a)));
          const jump = random() < 0.4 ? steps[Math.floor(random() * steps.length)] : left[0];
          if (!jump) break;
          tick(journal, jump.id, "in");
        }
        const { back } = stripView(input, journal, NOW);
        let stand: VehicleState = carState(plan, journal, NOW);
        const off = new Set(journal.stepEvents.map((d) => d.step));
        for (const task of back) {
          if (task.prepStep) stand = { ...stand, ...task.prepStep.sets };
          else {
            // Nothing that is still off stands on it.
            const upon = levelled.filter((s) => s.after.includes(task.id) && off.has(s.id) && leavesSomething(s));
            expect(upon.map((s) => s.id)).toEqual([]);
            expect(allows(stand, needsOf(task.step as StripStep))).toBe(true);
          }
          tick(journal, task.id, task.prepStep ? "in" : "back");
          off.delete(task.id);
        }
        // Told step by step instead of all at once it is the same way, and it ends.
        const again = { ...journal, stepEvents: journal.stepEvents.slice(0, journal.stepEvents.length - back.length) };
        for (let ticks = 0; ticks <= 2 * back.length + 2; ticks++) {
          const [first] = stripView(input, again, NOW).back;
          if (!first) break;
          expect(ticks).toBeLessThanOrEqual(2 * back.length + 1);
          tick(again, first.id, first.prepStep ? "in" : "back");
        }
        expect(stripView(input, again, NOW).back).toEqual([]);
        const home = carState(plan, journal, NOW);
        expect(home).toMatchObject({ battery: "connected", key: "off", selector: "P" });
        expect([home.panelsOff, home.plugsOpen, home.fastenersOut]).toEqual([[], [], []]);
      }),
      { numRuns: 60 },
    );
  });
});

function leavesSomething(step: StripStep): boolean {
  return Boolean(step.panel || step.fasteners?.length || step.opens?.length);
}

describe("the order", () => {
  const problem = (seed: number, steps: number): [Setup, Task[]] => {
    const { setup, tasks } = randomProblem(seed, steps);
    return [setup, tasks];
  };

  it("is never cheaper than the exact search and rarely much dearer", () => {
    const ratios = [];
    for (let seed = 1; seed <= 25; seed++) {
      const [setup, tasks] = problem(seed, 8);
      const found = orderTasks(setup, tasks);
      const exact = orderExactly(setup, tasks);
      if (!found || !exact) throw new Error("no order");
      expect(found.cost.minutes).toBeGreaterThanOrEqual(exact.cost.minutes - 1e-9);
      ratios.push(found.cost.minutes / exact.cost.minutes);
    }
    expect(Math.max(...ratios)).toBeLessThan(1.25);
  });

  it("agrees with trying every order of five steps", () => {
    for (let seed = 100; seed < 110; seed++) {
      const [setup, tasks] = problem(seed, 5);
      let best = Number.POSITIVE_INFINITY;
      const visit = (order: number[]) => {
        if (order.length === tasks.length) best = Math.min(best, costOfOrder(setup, tasks, order)?.minutes ?? best);
        for (let i = 0; i < tasks.length; i++) if (!order.includes(i)) visit([...order, i]);
      };
      visit([]);
      expect(orderExactly(setup, tasks)?.cost.minutes).toBeCloseTo(best, 9);
    }
  });

  it.each([0, 0.03, 2, 10, 45])(
    "takes what needs the key off before the battery, at %d min to wait",
    (batteryWaitMin) => {
      const step = (id: string, after: string[], more: object = {}) => ({
        id,
        title: id,
        detail: "",
        after,
        minutes: { low: 1, likely: 3, high: 5 },
        ...more,
      });
      const steps = [
        step("cover", []),
        step("glovebox", ["cover"], { airbagZone: true }),
        step("vents", ["glovebox"], { airbagZone: true }),
        step("console", ["cover"], { requires: { key: "on", selector: ["N"] } }),
        step("shroud", ["console"]),
        step("radio", ["shroud", "vents"]),
      ];
      const base = { plan: { steps, batteryWaitMin }, goals: [], closing: "proveFirst" as const, measured: {} };
      const order = planRoute(base, emptyJournal()).steps.map((s) => s.id);
      expect(order.indexOf("console")).toBeLessThan(order.indexOf("glovebox"));
    },
  );

  it("refuses an order that breaks a prerequisite, and an exact search that would not end", () => {
    const [setup, tasks] = problem(3, 6);
    const late = tasks.findIndex((t) => t.before.length > 0);
    const order = [late, ...tasks.map((_, i) => i).filter((i) => i !== late)];
    expect(costOfOrder(setup, tasks, order)).toBeNull();
    expect(() => orderExactly(setup, problem(3, EXACT_LIMIT + 1)[1])).toThrow(RangeError);
  });
});
