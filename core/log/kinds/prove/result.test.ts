import { expect, it } from "vitest";
import { demoDocuments } from "../../../../profiles/library";
import { jobOf, press } from "../../../../tests/support/jobs";

it("a time that was taken is judged by what the test allows, not by who took it", () => {
  const job = jobOf(demoDocuments());
  const test = job.plan.tests.find((t) => t.fn.withinMs === 2000);
  if (!test) throw new Error("no test within two seconds");
  const taken = (afterS: number) =>
    press(job, { kind: "prove.result", data: { test: test.id, answer: "pass", note: "", afterS } }).state.results.get(
      test.id,
    );
  expect(taken(1.4)).toMatchObject({ value: "pass", note: "1.4 s" });
  expect(taken(2.4)).toMatchObject({ value: "late", note: "2.4 s" });
});
