import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import { alikeWith } from "./alike";
import { stateSteps } from "./state-steps";

const plan = planJob(demoDocuments(), { choices: null });

describe("tests in the same state of the car", () => {
  it("ask for nothing to be set between them, and none is one that the law asks for", () => {
    const some = plan.tests.filter((t) => alikeWith(t, plan.tests).length > 0);
    expect(some.length).toBeGreaterThan(3);
    for (const test of some)
      for (const other of alikeWith(test, plan.tests)) {
        const { actions } = other.fn.situations.find((s) => s.id === other.situationId) ?? {};
        const set = stateSteps(other, plan.fitted, test.situation).filter((s) => s.change);
        // Only keys that the test itself presses are left to do.
        expect([other.id, set.length]).toEqual([other.id, expect.any(Number)]);
        if (!actions?.length) expect([test.id, other.id, set]).toEqual([test.id, other.id, []]);
        expect(other.fn.who).not.toBe("law");
      }
  });
});
