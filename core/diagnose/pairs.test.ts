import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { randomDisturbance, randomSystem } from "../../tests/support/random-system";
import { Model as PlainModel } from "../../tests/support/reference/outcome";
import { plainSight } from "../../tests/support/reference/sight";
import { planJob } from "../job/plan";
import { mergeDisturbances } from "../model/disturbance";
import type { Fault } from "../model/faults";
import { Model } from "../model/outcome";
import { simulatePairs } from "./pairs";

describe("all pairs of faults", () => {
  const plan = planJob(demoDocuments(), { choices: null });
  const table = simulatePairs(plan.fitted, plan.tests, plan.touched);
  if (!table) throw new Error("it was not stopped");
  const { faults, tests } = table;

  it("show what the plain evaluator shows, on a sample", () => {
    let compared = 0;
    for (let i = 0; i < faults.length; i += 3)
      for (let j = i; j < faults.length; j += 11) {
        const both = mergeDisturbances([faults[i], faults[j]].map((f) => (f as Fault).disturbance));
        const plain = new PlainModel(plan.fitted, both, plan.touched.planned);
        const wanted = tests.map((t) => plainSight(plain, t.fn, t.situationId));
        expect([i, j, tests.map((_, t) => table.outcome(i, j, t))]).toEqual([i, j, wanted]);
        compared++;
      }
    expect(compared).toBeGreaterThan(80);
  });

  it("are the same either way round", () => {
    for (let t = 0; t < tests.length; t++) expect(table.outcome(5, 40, t)).toBe(table.outcome(40, 5, t));
  });

  it("can be stopped", () => {
    let calls = 0;
    expect(simulatePairs(plan.fitted, plan.tests, plan.touched, () => ++calls < 3)).toBeNull();
    expect(calls).toBe(3);
  });
});

describe("a model under one more disturbance", () => {
  it("shows what a model made under both shows, on random systems", () => {
    let differing = 0;
    for (let seed = 0; seed < 100; seed++) {
      const system = randomSystem(seed);
      const sound = new Model(system);
      for (let d = 0; d < 5; d++) {
        const [one, two] = [1, 2].map((k) => randomDisturbance(7000 * k + 10 * seed + d, system));
        if (!one || !two) throw new Error("two disturbances");
        const chain = sound.under(one).under(two);
        const both = sound.under(one).and(sound.under(two));
        const plain = new PlainModel(system, mergeDisturbances([one, two]));
        for (const fn of system.functions)
          for (const s of fn.situations) {
            const wanted = plainSight(plain, fn, s.id);
            const shown = [chain.sight(fn, s.id), both.sight(fn, s.id)];
            expect([seed, d, fn.id, s.id, ...shown]).toEqual([seed, d, fn.id, s.id, wanted, wanted]);
            if (sound.sight(fn, s.id) !== wanted) differing++;
          }
      }
    }
    expect(differing).toBeGreaterThan(150);
  });
});
