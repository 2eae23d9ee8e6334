import { expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import { Model } from "../model/outcome";
import { judgeTable } from "./table";
import { unnoticed } from "./unnoticed";

it("what nobody would notice changes no test, and appears when the test of it is left out", () => {
  const plan = planJob(demoDocuments(), { choices: null });
  const of = (tests: typeof plan.tests) => {
    const table = judgeTable(plan.fitted, tests, plan.touched);
    if (!table) throw new Error("it was not stopped");
    return unnoticed(table, plan.touched).flatMap((u) => u.causes);
  };
  const sound = new Model(plan.fitted, {}, plan.settings);
  for (const cause of of(plan.tests)) {
    const faulty = sound.under(cause.fault?.disturbance ?? {});
    for (const t of plan.tests) expect(faulty.sight(t.fn, t.situationId)).toBe("works");
  }
  const withoutSound = of(plan.tests.filter((t) => t.fn.id !== "phoneSound")).map((h) => h.id);
  expect(withoutSound).toContain("loose:k-audio-module");
  expect(of(plan.tests).map((h) => h.id)).not.toContain("loose:k-audio-module");
});
