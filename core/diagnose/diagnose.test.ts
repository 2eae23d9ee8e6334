import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import { answerFor, diagnose, type FaultTable, lookAnswer, simulateFaults } from "./bench";
import { explain, minimalHittingSets } from "./explain";
import { entropyBits, type Hypothesis, posterior, rankChecks } from "./posterior";

/** What a look would show under a fault of a table. */
const shown = (table: FaultTable, fault: FaultTable["faults"][number], check: string) =>
  lookAnswer(fault, check, (part) => table.dark.get(fault.id)?.has(part) ?? false);

describe("explain", () => {
  // Three multipliers, two adders: A=3 B=2 C=2 D=3 E=3, F = M1+M2, G = M2+M3 with M1=A·C, M2=B·D, M3=C·E.
  // Observed F=10 (12 predicted), G=12. Source: de Kleer and Williams, Artificial Intelligence 32 (1987).
  const values = Array.from({ length: 41 }, (_, i) => i);
  const circuit = {
    components: ["A1", "A2", "M1", "M2", "M3"],
    behaviours: () => values,
    predict(faulty: ReadonlyMap<string, number>) {
      const out = (name: string, sound: number) => faulty.get(name) ?? sound;
      const [x, y, z] = [out("M1", 3 * 2), out("M2", 2 * 3), out("M3", 2 * 3)];
      return new Map([
        ["F", out("A1", x + y)],
        ["G", out("A2", y + z)],
      ]);
    },
  };

  it("finds the published minimal diagnoses and conflicts of the five-component example", () => {
    const { diagnoses, conflicts } = explain(
      circuit,
      new Map([
        ["F", 10],
        ["G", 12],
      ]),
      2,
    );
    expect(diagnoses).toEqual([["A1"], ["M1"], ["A2", "M2"], ["M2", "M3"]]);
    expect(conflicts).toEqual(
      [
        ["A1", "M1", "M2"],
        ["A1", "A2", "M1", "M3"],
      ].map((c) => c.sort()),
    );
  });

  it("needs no fault when everything is as predicted", () => {
    expect(
      explain(
        circuit,
        new Map([
          ["F", 12],
          ["G", 12],
        ]),
        2,
      ),
    ).toEqual({ diagnoses: [[]], conflicts: [] });
  });

  it("computes minimal hitting sets both ways (Reiter 1987)", () => {
    const sets = [
      ["a", "b"],
      ["b", "c"],
      ["a", "c"],
    ];
    expect(minimalHittingSets(sets)).toEqual([
      ["a", "b"],
      ["a", "c"],
      ["b", "c"],
    ]);
    expect(minimalHittingSets(minimalHittingSets(sets))).toEqual([
      ["a", "b"],
      ["a", "c"],
      ["b", "c"],
    ]);
  });
});

describe("posterior and next check", () => {
  const coin = (id: string, weight: number, heads: number): Hypothesis => ({
    id,
    weight,
    likelihood: (_, a) => (a === "heads" ? heads : 1 - heads),
  });

  it("follows Bayes' rule", () => {
    // Fair coin against two-headed coin, one head: 1/3 and 2/3.
    const ranked = posterior([coin("fair", 1, 0.5), coin("trick", 1, 1)], new Map([["toss", "heads"]]));
    expect(ranked.map((r) => [r.id, r.probability])).toEqual([
      ["trick", 2 / 3],
      ["fair", 1 / 3],
    ]);
  });

  it("measures entropy in bits", () => {
    expect(entropyBits([0.5, 0.5])).toBe(1);
    expect(entropyBits([0.25, 0.25, 0.25, 0.25])).toBe(2);
    expect(entropyBits([1, 0])).toBe(0);
  });

  it("prefers the check that halves the causes, and the cheap one of two equal ones", () => {
    const says = (yes: readonly string[]) => (h: string) => (yes.includes(h) ? 1 : 0);
    const table: Record<string, (h: string) => number> = {
      halves: says(["a", "b"]),
      one: says(["a"]),
      slow: says(["a", "b"]),
    };
    const hypotheses: Hypothesis[] = ["a", "b", "c", "d"].map((id) => ({
      id,
      weight: 1,
      likelihood: (c, answer) => (answer === "yes" ? (table[c]?.(id) ?? 0) : 1 - (table[c]?.(id) ?? 0)),
    }));
    const answers = ["yes", "no"].map((id) => ({ id, label: id }));
    const checks = [
      ["slow", 4],
      ["one", 1],
      ["halves", 1],
    ].map(([id, minutes]) => ({ id: String(id), title: "", how: "", minutes: Number(minutes), answers }));
    const ranked = rankChecks(hypotheses, posterior(hypotheses, new Map()), checks);
    expect(ranked.map((r) => r.check.id)).toEqual(["halves", "one", "slow"]);
    expect(ranked[0]?.gainBits).toBeCloseTo(1);
    expect(ranked[1]?.gainBits).toBeCloseTo(0.811, 3); // 2 - 0.75·log2(3)
  });
});

describe("diagnosis of the demonstration car", () => {
  const plan = planJob(demoDocuments(), { choices: null });
  const table = simulateFaults(plan.fitted, plan.tests, plan.touched);

  it("simulates every kind of single fault", () => {
    const kinds = new Set(table.faults.map((f) => f.kind));
    expect(kinds).toEqual(new Set(["leadOpen", "notPlugged", "exchanged", "dead", "setting", "assumed"]));
    expect(new Set(table.faults.map((f) => f.id)).size).toBe(table.faults.length);
  });

  it("leads to each fault of the kit that shows at all, by its own proposed checks", () => {
    const own = table.faults.filter((f, i) => f.weight >= 1 && table.outcomes[i]?.some((o) => o !== "ok"));
    expect(own.length).toBeGreaterThan(20);
    const lost = own.filter((f) => !pursue(table, f.id));
    expect(lost.map((f) => f.id)).toEqual([]);
  });

  it("can be stopped half-way", () => {
    const part = simulateFaults(plan.fitted, plan.tests, plan.touched, (done) => done < 5);
    expect(part.faults.length).toBe(5);
  });
});

/** Answers the proposed checks as the faulty car would; true when the fault, or one that looks just the same, comes out first. */
function pursue(table: FaultTable, id: string): boolean {
  const index = table.faults.findIndex((f) => f.id === id);
  const fault = table.faults[index];
  if (!fault) return false;
  const signature = (i: number) =>
    [...(table.outcomes[i] ?? []), ...table.checks.map((c) => shown(table, table.faults[i] ?? fault, c.id))].join();
  const results = new Map<string, string>();
  for (let step = 0; step < 40; step++) {
    const { causes, next } = diagnose(table, results);
    const first = causes[0];
    const check = next[0]?.check;
    if (!check || (first && first.probability > 0.95)) {
      const found = table.faults.findIndex((f) => f.id === first?.id);
      return signature(found) === signature(index) || table.faults[found]?.parts[0] === fault.parts[0];
    }
    const t = table.tests.findIndex((x) => x.id === check.id);
    results.set(check.id, t >= 0 ? answerFor(table.outcomes[index]?.[t] ?? "ok") : shown(table, fault, check.id));
  }
  return false;
}
