import { describe, expect, it } from "vitest";
import { fittingJobs } from "../../tests/bench/jobs";
import { Model } from "../model/outcome";
import { cannotOf } from "./cannot";

const plans = fittingJobs();
const planOf = (kit: string, variant: string) => {
  const plan = plans.find(({ documents: d }) => d.kit.id === kit && d.variant.id === variant);
  if (!plan) throw new Error(`${kit} does not fit ${variant}`);
  return plan;
};

describe("what is no fault on a car", () => {
  it("is a zone that the car does not have, on a car with one", () => {
    const ids = (variant: string) => cannotOf(planOf("sundrey-wide-10", variant)).map((c) => c.id);
    expect(ids("sundrey-heron-20-h2")).toContain("normal:deadZone");
    expect(ids("sundrey-vale-19-v1")).not.toContain("normal:deadZone");
  });

  it("is what the model says does not work, in every situation or in those it names, on every job", () => {
    let named = 0;
    for (const plan of plans) {
      const model = new Model(plan.fitted, {}, plan.settings);
      for (const { id, when } of cannotOf(plan)) {
        const fn = plan.fitted.functions.find((f) => `function:${f.id}` === id);
        if (!fn) continue;
        const silent = fn.situations.filter((s) => model.try(fn, s.id).outcome.kind !== "ok").map((s) => s.label);
        expect([id, silent]).toEqual([id, when.length > 0 ? when : fn.situations.map((s) => s.label)]);
        named++;
      }
    }
    expect(named).toBeGreaterThan(20);
  });

  it("is never something that is tried and must work", () => {
    for (const plan of plans) {
      const always = cannotOf(plan).filter((c) => c.when.length === 0);
      const tried = new Set(plan.tests.map((t) => `function:${t.fn.id}`));
      expect(always.filter((c) => tried.has(c.id))).toEqual([]);
    }
  });
});
