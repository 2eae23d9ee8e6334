import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import { hypothesesOfPlan } from "../job/suspects";
import { learned } from "./learned";

const hypotheses = hypothesesOfPlan(planJob(demoDocuments(), { choices: null }));
const weightAfter = (id: string, hints: ReturnType<typeof learned>) =>
  (hypotheses.find((h) => h.id === id)?.weight ?? 0) * (hints.get(id)?.factor ?? 1);

describe("what closed jobs teach", () => {
  it("is nothing while nothing was repaired", () => {
    expect(learned(hypotheses, { jobsWithKit: 0, repairs: [] }).size).toBe(0);
    const strange = { jobsWithKit: 3, repairs: [{ cause: "a cause of another kit", jobs: 3, withKit: 0 }] };
    expect(learned(hypotheses, strange).size).toBe(0);
  });

  it("makes likelier what was repaired before, with the count beside it", () => {
    const repairs = [{ cause: "open:audioLead", jobs: 3, withKit: 3 }];
    const hints = learned(hypotheses, { jobsWithKit: 41, repairs });
    expect(hints.get("open:audioLead")?.why).toBe("Repaired on 3 of 41 jobs with this kit.");
    expect(hints.get("open:audioLead")?.factor).toBeGreaterThan(2);
    // Others of its kind are somewhat likelier, too; those of other kinds less.
    expect(hints.get("loose:k-audio-module")?.factor).toBeLessThan(1);
    expect(hints.get("open:audioLead")?.factor).toBeGreaterThan(hints.get("open:videoOutLead")?.factor ?? 9);
  });

  it("keeps the sum of all weights, whatever was repaired", () => {
    const ids = hypotheses.filter((h) => h.kind !== "none").map((h) => h.id);
    const total = hypotheses.reduce((s, h) => s + (h.kind === "none" ? 0 : h.weight), 0);
    const one = fc.record({ cause: fc.constantFrom(...ids), jobs: fc.integer({ min: 1, max: 40 }) });
    fc.assert(
      fc.property(fc.uniqueArray(one, { selector: (r) => r.cause, minLength: 1, maxLength: 8 }), (list) => {
        const repairs = list.map((r) => ({ ...r, withKit: r.jobs }));
        const hints = learned(hypotheses, { jobsWithKit: 99, repairs });
        expect(ids.reduce((s, id) => s + weightAfter(id, hints), 0)).toBeCloseTo(total, 6);
      }),
      { numRuns: 40 },
    );
  });

  it("is the relative frequency in the end", () => {
    const repairs = [
      { cause: "open:audioLead", jobs: 90_000, withKit: 90_000 },
      { cause: "loose:k-audio-module", jobs: 10_000, withKit: 10_000 },
    ];
    const hints = learned(hypotheses, { jobsWithKit: 100_000, repairs });
    const [lead, plug] = ["open:audioLead", "loose:k-audio-module"].map((id) => weightAfter(id, hints));
    expect((lead ?? 0) / (plug ?? 1)).toBeCloseTo(9, 1);
  });
});
