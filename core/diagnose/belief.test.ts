import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { type Belief, believe, entropyBits, expectedAfter, type Question } from "./belief";

const HYPOTHESES = 5;
const weights = fc.array(fc.integer({ min: 1, max: 50 }), { minLength: HYPOTHESES, maxLength: HYPOTHESES });
const likelihood = fc
  .array(fc.integer({ min: 1, max: 99 }), { minLength: HYPOTHESES, maxLength: HYPOTHESES })
  .map((list) => Float64Array.from(list, (n) => n / 100));

/** A question that can be answered yes or no. */
const yesOrNo = (yes: Float64Array): Question => ({ id: "q", minutes: 1, answers: [yes, yes.map((p) => 1 - p)] });

describe("believing", () => {
  it("follows Bayes' rule", () => {
    // Fair coin against two-headed coin, one head: 1/3 and 2/3.
    expect([...believe([1, 1], [[0.5, 1]])]).toEqual([1 / 3, 2 / 3]);
  });

  it("adds up to one, whatever the order of what is reported", () => {
    fc.assert(
      fc.property(weights, fc.array(likelihood, { maxLength: 6 }), (w, reports) => {
        const one = believe(w, reports);
        const other = believe(w, [...reports].reverse());
        expect(one.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
        for (const [h, p] of one.entries()) expect(p).toBeCloseTo(other[h] ?? -1, 12);
      }),
    );
  });

  it("measures entropy in bits", () => {
    expect(entropyBits([0.5, 0.5])).toBe(1);
    expect(entropyBits([0.25, 0.25, 0.25, 0.25])).toBe(2);
    expect(entropyBits([1, 0])).toBe(0);
  });
});

describe("what an answer is expected to bring", () => {
  it("never adds doubt, and leaves what is believed the same on average", () => {
    fc.assert(
      fc.property(weights, likelihood, (w, yes) => {
        const now = believe(w, []);
        expect(expectedAfter(now, yesOrNo(yes), entropyBits)).toBeLessThanOrEqual(entropyBits(now) + 1e-9);
        for (let h = 0; h < HYPOTHESES; h++)
          expect(expectedAfter(now, yesOrNo(yes), (b) => b[h] as number)).toBeCloseTo(now[h] as number, 9);
      }),
    );
  });

  it("is worth in the published oil well example what it says there", () => {
    // Dry, wet, soaking with 0.5, 0.3, 0.2; drilling brings -70, 50, 200 thousand, not drilling 0; a sounding for 10
    // thousand shows no, open or closed structure. Raiffa, Decision Analysis (1968); the figures from memory.
    const belief = believe([0.5, 0.3, 0.2], []);
    const gain = [-70, 50, 200];
    const best = (b: Belief) =>
      Math.max(
        0,
        gain.reduce((sum, g, h) => sum + g * (b[h] as number), 0),
      );
    const sounding: Question = {
      id: "sounding",
      minutes: 0,
      answers: [Float64Array.of(0.6, 0.3, 0.1), Float64Array.of(0.3, 0.4, 0.4), Float64Array.of(0.1, 0.3, 0.5)],
    };
    const perfect: Question = {
      id: "perfect",
      minutes: 0,
      answers: [Float64Array.of(1, 0, 0), Float64Array.of(0, 1, 0), Float64Array.of(0, 0, 1)],
    };
    expect(best(belief)).toBeCloseTo(20, 9);
    expect(expectedAfter(belief, sounding, best)).toBeCloseTo(32.5, 9);
    expect(expectedAfter(belief, perfect, best)).toBeCloseTo(55, 9);
  });
});
