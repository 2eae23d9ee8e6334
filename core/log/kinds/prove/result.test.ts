import { expect, it } from "vitest";
import { demoDocuments } from "../../../../profiles/library";
import { jobOf, plugged, press } from "../../../../tests/support/jobs";
import { foldJob } from "../../fold";

it("the same answer counts as one more try, but not when the finger came down twice", () => {
  const tried = (...answers: [second: number, by: string][]) =>
    foldJob(
      answers.map(([second, by], i) => ({
        id: `e${i}`,
        at: new Date(Date.UTC(2026, 10, 27, 9, 0, 0, second * 1000)).toISOString(),
        by,
        kind: "prove.result",
        data: { test: "rearView/factory", answer: "nothing", note: "" },
      })),
    ).results.get("rearView/factory")?.same;
  expect(tried([0, "Ida"], [0.4, "Ida"])).toBe(1);
  expect(tried([0, "Ida"], [0.4, "Ida"], [8, "Ida"])).toBe(2);
  expect(tried([0, "Ida"], [0.4, "Per"])).toBe(2);
});

it("a time that was taken is judged by what the test allows, not by who took it", () => {
  const job = plugged(jobOf(demoDocuments()));
  const test = job.plan.tests.find((t) => t.fn.withinMs === 2000);
  if (!test) throw new Error("no test within two seconds");
  const taken = (afterS: number) =>
    press(job, { kind: "prove.result", data: { test: test.id, answer: "pass", note: "", afterS } }).state.results.get(
      test.id,
    );
  expect(taken(1.4)).toMatchObject({ value: "pass", note: "1.4 s" });
  expect(taken(2.4)).toMatchObject({ value: "late", note: "2.4 s" });
});
