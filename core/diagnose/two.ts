/** Two things the matter at once, looked for where no single one explains what was seen. */
import { sightKey } from "../model/sight";
import type { Hypothesis } from "./hypothesis";
import type { Prediction } from "./predict";
import type { JudgeTable } from "./table";

/** Chance that something else is the matter beside one thing. Our assumption. */
const SECOND = 0.15;
/** Single causes that may take part, the likeliest first. */
const CANDIDATES = 40;

/**
 * The table with pairs of causes added. Where both would be noticed at a test, either may be what is told; they are
 * taken not to change each other, which is exact but for faults on one way.
 *
 * @param worth how much each hypothesis deserves to be paired: what of the failures it explains, by its weight
 */
export function withPairs(table: JudgeTable, worth: readonly number[]): JudgeTable {
  const singles = table.hypotheses
    .map((h, i) => ({ h, i, worth: worth[i] ?? 0 }))
    .filter(({ h, worth }) => h.kind !== "none" && !h.pair && worth > 0)
    .sort((a, b) => b.worth - a.worth)
    .slice(0, CANDIDATES);
  const total = table.hypotheses.reduce((sum, h) => sum + h.weight, 0);
  const pairs = singles.flatMap((a, k) =>
    singles
      .slice(k + 1)
      // What is normal is ruled out by itself.
      .filter((b) => !a.h.normal && !b.h.normal && a.h.settledBy !== b.h.settledBy)
      .map((b) => ({ a, b, weight: (SECOND * a.h.weight * b.h.weight) / total })),
  );
  const first = table.hypotheses.length;
  return {
    ...table,
    hypotheses: [...table.hypotheses, ...pairs.map(({ a, b, weight }) => bothOf(a.h, b.h, weight))],
    predictions: [
      ...table.predictions,
      ...pairs.map(({ a, b }) =>
        table.tests.map((_, t) => together(table.predictions[a.i]?.[t] ?? WORKS, table.predictions[b.i]?.[t] ?? WORKS)),
      ),
    ],
    alike: [...table.alike, ...pairs.map((_, k) => first + k)],
    signs: [
      ...table.signs,
      ...pairs.map(({ a, b }) => new Set([...(table.signs[a.i] ?? []), ...(table.signs[b.i] ?? [])])),
    ],
  };
}

const WORKS: Prediction = [[sightKey({ what: "works" }), 1]];

function bothOf(a: Hypothesis, b: Hypothesis, weight: number): Hypothesis {
  return {
    id: `${a.id} & ${b.id}`,
    kind: "pair",
    title: `Two things: ${a.title}; ${b.title}`,
    cause: "No single cause explains what was seen.",
    remedy: `${a.remedy} ${b.remedy}`,
    normal: false,
    weight,
    parts: [...a.parts, ...b.parts],
    links: [...a.links, ...b.links],
    settledBy: null,
    at: [...a.at, ...b.at],
    repairMinutes: a.repairMinutes + b.repairMinutes,
    reopenMinutes: Math.max(a.reopenMinutes, b.reopenMinutes),
    ...{ fault: null, shows: null, ownLook: null },
    pair: [a, b],
  };
}

/** What two causes show at a test where each alone shows this. */
function together(one: Prediction, two: Prediction): Prediction {
  if (one === two || isSound(two)) return one;
  if (isSound(one)) return two;
  const sum = new Map<string, number>();
  for (const [x, p] of one)
    for (const [y, q] of two) {
      // What works alone does not hide what the other takes away.
      const told = x === "works" ? [y] : y === "works" ? [x] : [x, y];
      for (const sight of told) sum.set(sight, (sum.get(sight) ?? 0) + (p * q) / told.length);
    }
  return [...sum];
}

const isSound = (p: Prediction) => p.length === 1 && p[0]?.[0] === "works";
