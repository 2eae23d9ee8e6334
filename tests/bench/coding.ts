/** Coded words: the least change of a large word, against trying everything on a small one; a scan of many units. */
import type { CodingMap } from "../../core/coding/map";
import { type Goal, holds, leastChange, type Rule, type Variable } from "../../core/coding/solve";
import { askUnit } from "../../core/diagnostics/ask";
import { scanUnit } from "../../core/diagnostics/procedures";
import { StandInAdapter } from "../../sim/adapter";
import { newUnits, type StandInCar } from "../../sim/control-units";
import { seededRandom } from "../../sim/random";
import { medianMs, report } from "./report";

function problem(seed: number, fields: number): { variables: Variable[]; rules: Rule[]; goals: Goal[] } {
  const random = seededRandom(seed);
  const pick = (n: number) => Math.floor(random() * n);
  const variables = Array.from({ length: fields }, (_, i) => ({ key: `f${i}`, now: pick(3), domain: [0, 1, 2] }));
  // As in a map: every other field needs one of the same dozen before it; of every eight three exclude each other.
  const rules: Rule[] = variables.flatMap((v, i) =>
    i % 12 === 0 || i % 2 === 0
      ? []
      : [{ kind: "needs", key: v.key, with: [1 + pick(2)], other: `f${i - 1 - pick(i % 12)}`, is: [pick(3), pick(3)] }],
  );
  for (let g = 0; g < fields; g += 8) rules.push({ kind: "oneOf", keys: [`f${g}`, `f${g + 3}`, `f${g + 6}`] });
  const goals = Array.from({ length: Math.ceil(fields / 10) }, (_, i) => ({ key: `f${8 * i + 7}`, in: [1 + pick(2)] }));
  return { variables, rules, goals };
}

function tryEverything({ variables, goals, rules }: ReturnType<typeof problem>): number {
  let best = Number.POSITIVE_INFINITY;
  const values = new Map<string, number>();
  const ones = (n: number) => n.toString(2).replaceAll("0", "").length;
  const walk = (i: number, bits: number): void => {
    const v = variables[i];
    if (!v) {
      const good = rules.every((r) => holds(r, values)) && goals.every((g) => g.in.includes(values.get(g.key) ?? -1));
      if (good) best = Math.min(best, bits);
      return;
    }
    for (const value of v.domain) {
      values.set(v.key, value);
      walk(i + 1, bits + ones(value ^ v.now));
    }
  };
  walk(0, 0);
  return best;
}

const large = Array.from({ length: 9 }, (_, i) => problem(i + 1, 128));
const kinds = large.map((p) => leastChange(p.variables, p.rules, p.goals).kind);
const solved = kinds.filter((k) => k === "solved").length;
const undecided = kinds.filter((k) => k === "undecided").length;
const worst = Math.max(...large.map((p) => medianMs(5, () => void leastChange(p.variables, p.rules, p.goals))));
report({
  case: "least change of a word of 128 fields with dependencies, slowest of 9",
  value: worst,
  unit: "ms",
  note: `aim: under 50; ${solved} solved, ${undecided} given up, the others name what contradicts`,
});
const small = problem(3, 10);
const ours = medianMs(15, () => void leastChange(small.variables, small.rules, small.goals));
const theirs = medianMs(5, () => void tryEverything(small));
report({
  case: "least change of a word of 10 fields",
  value: ours,
  unit: "ms",
  peer: "trying everything",
  peerValue: theirs,
  ratio: theirs / ours,
});

const units = Array.from({ length: 40 }, (_, i) => ({
  id: `u${i}`,
  name: `Unit ${i}`,
  request: 0x700 + i,
  answer: 0x740 + i,
  words: [],
}));
const map: CodingMap = { document: "coding", id: "b", version: 1, title: "b", sourceNote: "", car: "c", units };
const car: StandInCar = {
  map,
  delivered: () => undefined,
  allowed: () => [],
  alive: () => true,
  codes: () => [],
  known: () => [],
};
const started = performance.now();
const adapter = new StandInAdapter(car, newUnits(car, 1));
let frames = 0;
for (const unit of units)
  await scanUnit({
    ask: (request) => askUnit(adapter, unit, request, () => frames++),
    volts: async () => 12.6,
    cancelled: () => false,
  });
report({
  case: "scan of 40 stand-in units: processor time",
  value: performance.now() - started,
  unit: "ms",
  note: `${frames} frames; ${(adapter.nowMs() / 1000).toFixed(1)} s on the clock of the car`,
});
