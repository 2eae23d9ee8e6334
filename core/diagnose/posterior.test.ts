import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { answerFor } from "./bench";
import { explain, minimalHittingSets } from "./explain";
import { entropyBits, type Hypothesis, posterior, rankChecks } from "./posterior";

const hypotheses = fc
  .array(
    fc.record({
      weight: fc.integer({ min: 1, max: 50 }),
      yes: fc.array(fc.integer({ min: 1, max: 99 }), { minLength: 4, maxLength: 4 }),
    }),
    { minLength: 2, maxLength: 8 },
  )
  .map((list) =>
    list.map(
      (h, i): Hypothesis => ({
        id: `h${i}`,
        weight: h.weight,
        likelihood: (check, answer) =>
          answer === "yes" ? (h.yes[Number(check)] ?? 50) / 100 : 1 - (h.yes[Number(check)] ?? 50) / 100,
      }),
    ),
  );
const answers = fc
  .dictionary(fc.constantFrom("0", "1", "2", "3"), fc.constantFrom("yes", "no"))
  .map((d) => new Map(Object.entries(d)));
const checks = ["0", "1", "2", "3"].map((id) => ({
  id,
  title: "",
  how: "",
  minutes: 1,
  answers: [
    { id: "yes", label: "" },
    { id: "no", label: "" },
  ],
}));

describe("posterior", () => {
  it("adds up to one and is sorted", () => {
    fc.assert(
      fc.property(hypotheses, answers, (hs, as) => {
        const ranked = posterior(hs, as);
        expect(ranked.reduce((s, r) => s + r.probability, 0)).toBeCloseTo(1, 9);
        for (let i = 1; i < ranked.length; i++)
          expect(ranked[i - 1]?.probability).toBeGreaterThanOrEqual(ranked[i]?.probability ?? 0);
      }),
    );
  });

  it("does not depend on the order of the answers", () => {
    fc.assert(
      fc.property(hypotheses, answers, (hs, as) => {
        const back = new Map([...as].reverse());
        const one = new Map(posterior(hs, as).map((r) => [r.id, r.probability]));
        for (const r of posterior(hs, back)) expect(r.probability).toBeCloseTo(one.get(r.id) ?? -1, 12);
      }),
    );
  });
});

describe("next check", () => {
  it("promises the mean of what the answers then bring, never less than nothing", () => {
    fc.assert(
      fc.property(hypotheses, (hs) => {
        const now = posterior(hs, new Map());
        const before = entropyBits(now.map((r) => r.probability));
        for (const { check, gainBits } of rankChecks(hs, now, checks)) {
          let after = 0;
          for (const answer of ["yes", "no"]) {
            const p = now.reduce(
              (s, r) => s + r.probability * (hs.find((h) => h.id === r.id)?.likelihood(check.id, answer) ?? 0),
              0,
            );
            after += p * entropyBits(posterior(hs, new Map([[check.id, answer]])).map((r) => r.probability));
          }
          expect(gainBits).toBeGreaterThan(0);
          expect(gainBits).toBeCloseTo(before - after, 9);
        }
      }),
    );
  });

  it("leaves out a check that every cause answers alike", () => {
    const same: Hypothesis[] = ["a", "b"].map((id) => ({ id, weight: 1, likelihood: () => 0.5 }));
    expect(rankChecks(same, posterior(same, new Map()), checks)).toEqual([]);
  });
});

describe("minimal hitting sets", () => {
  const family = fc.array(fc.uniqueArray(fc.constantFrom("a", "b", "c", "d", "e"), { minLength: 1, maxLength: 4 }), {
    minLength: 1,
    maxLength: 5,
  });

  it("hit every set, and none can lose a member", () => {
    fc.assert(
      fc.property(family, (sets) => {
        const hits = (h: readonly string[]) => sets.every((s) => s.some((x) => h.includes(x)));
        for (const h of minimalHittingSets(sets)) {
          expect(hits(h)).toBe(true);
          for (const x of h) expect(hits(h.filter((y) => y !== x))).toBe(false);
        }
      }),
    );
  });

  it("are all that exist, by trying every subset", () => {
    fc.assert(
      fc.property(family, (sets) => {
        const hits = (h: readonly string[]) => sets.every((s) => s.some((x) => h.includes(x)));
        const letters = ["a", "b", "c", "d", "e"];
        const all = Array.from({ length: 32 }, (_, mask) => letters.filter((_, i) => mask & (1 << i))).filter(hits);
        const minimal = all.filter((h) => !all.some((o) => o.length < h.length && o.every((x) => h.includes(x))));
        const key = (list: string[][]) => list.map((h) => h.join("")).sort();
        expect(key(minimalHittingSets(sets))).toEqual(key(minimal));
      }),
    );
  });
});

describe("explain", () => {
  it("finds nothing within the limit when more faults are needed", () => {
    const wires = {
      components: ["x", "y"],
      behaviours: () => [0],
      predict: (f: ReadonlyMap<string, number>) =>
        new Map([
          ["x", f.has("x") ? 0 : 1],
          ["y", f.has("y") ? 0 : 1],
        ]),
    };
    const both = new Map([
      ["x", 0],
      ["y", 0],
    ]);
    expect(explain(wires, both, 1).diagnoses).toEqual([]);
    expect(explain(wires, both, 2)).toEqual({ diagnoses: [["x", "y"]], conflicts: [["x"], ["y"]] });
  });
});

describe("answers", () => {
  it("are what a person would note for each outcome", () => {
    expect(["ok", "absent", "wrong:format", "doubled", "late"].map(answerFor)).toEqual([
      "pass",
      "nothing",
      "wrong",
      "wrong",
      "late",
    ]);
  });
});
