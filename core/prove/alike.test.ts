import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { standIn } from "../job/guards/tried";
import { planJob } from "../job/plan";
import { alikeWith } from "./alike";

const plan = planJob(demoDocuments(), { choices: null });

describe("tests in the same state of the car", () => {
  it("want key, selector and brake alike, and none is one that the law asks for", () => {
    const some = plan.tests.filter((t) => alikeWith(t, plan.tests).length > 0);
    expect(some.length).toBeGreaterThan(3);
    for (const test of some)
      for (const other of alikeWith(test, plan.tests)) {
        expect([other.id, standIn(other.situation)]).toEqual([other.id, standIn(test.situation)]);
        expect(other.fn.who).not.toBe("law");
      }
  });
});
