/** Everything that can be the matter with the car of a job, and what each would show at every test and every look. */
import type { Touched } from "../model/faults";
import { Model } from "../model/outcome";
import { insteadOf, type Sense } from "../model/sight";
import type { System } from "../model/types";
import type { Test } from "../prove/tests";
import { answersUnder, type Look, looksOf, signsOf } from "./checks";
import { type Hypothesis, hypothesesOf, NONE } from "./hypothesis";
import { likelihood, type Prediction } from "./predict";

export interface JudgeTable {
  hypotheses: readonly Hypothesis[];
  tests: readonly Test[];
  looks: readonly Look[];
  /** What each hypothesis shows at each test: `predictions[hypothesis][test]`. */
  predictions: readonly (readonly Prediction[])[];
  /** Which hypotheses look the same at every test and every lamp: the number of the first of them. */
  alike: readonly number[];
  /** Lamps that are dark and codes that are stored, by hypothesis. */
  signs: readonly ReadonlySet<string>[];
}

/** Chance that what a loose contact takes away comes and goes instead. Our assumption. */
const LOOSE_GOES = 0.06;
/** What the average of all faults is mixed with for a cause that nobody knows: any report at all. Our assumption. */
const ANYTHING = 0.35;

/**
 * Simulates everything that can be the matter with a system against all tests.
 *
 * @param progress called after each hypothesis with done and total; return false to stop
 * @returns null when it was stopped
 */
export function judgeTable(
  system: System,
  tests: readonly Test[],
  touched: Touched,
  progress?: (done: number, total: number) => boolean | undefined,
): JudgeTable | null {
  const sound = new Model(system, {}, touched.planned);
  const hypotheses = hypothesesOf(system, touched, tests, sound);
  const intern = interning();
  const predictions: Prediction[][] = [];
  const signs: Set<string>[] = [];
  for (const [i, h] of hypotheses.entries()) {
    const model = h.fault ? sound.under(h.fault.disturbance) : sound;
    const loose = h.kind === "notPlugged" || h.kind === "leadOpen";
    predictions.push(
      tests.map((t) => intern(h.shows ? h.shows(t) : simulated(model.sight(t.fn, t.situationId), loose))),
    );
    signs.push(signsOf(model, sound, touched.planned));
    if (progress?.(i + 1, hypotheses.length) === false) return null;
  }
  const none = hypotheses.findIndex((h) => h.id === NONE);
  predictions[none] = tests.map((t, i) => intern(average(hypotheses, predictions, none, i, t.sense)));
  return {
    hypotheses,
    tests,
    looks: looksOf(system, touched, hypotheses),
    predictions,
    alike: alike(hypotheses, predictions, signs, intern),
    signs,
  };
}

/** Probability of a report at a test under each of some hypotheses, by their numbers. */
export function reportLikelihoods(
  table: JudgeTable,
  test: number,
  report: string,
  of: readonly number[],
): Float64Array {
  const asked = table.tests[test] as Test;
  return Float64Array.from(of, (h) => likelihood(asked, table.predictions[h]?.[test] as Prediction, report));
}

/** Probability of an answer to a look under each of some hypotheses. */
export function lookLikelihoods(table: JudgeTable, look: Look, answer: number, of: readonly number[]): Float64Array {
  return Float64Array.from(of, (h) => {
    const shows = table.signs[h]?.has(look.id) ?? false;
    return answersUnder(look, table.hypotheses[h] as Hypothesis, shows)[answer] ?? 1;
  });
}

function simulated(sight: string, loose: boolean): Prediction {
  if (!loose || sight === "works") return [[sight, 1]];
  return [
    [sight, 1 - LOOSE_GOES],
    ["comesAndGoes", LOOSE_GOES / 2],
    ["breaksOff:bump", LOOSE_GOES / 2],
  ];
}

/** What nobody knows looks at each test like the average of what is known, and sometimes like nothing of it. */
function average(
  hypotheses: readonly Hypothesis[],
  predictions: readonly (readonly Prediction[])[],
  none: number,
  test: number,
  sense: Sense,
): Prediction {
  const sum = new Map<string, number>();
  let total = 0;
  for (const [h, { weight }] of hypotheses.entries()) {
    if (h === none) continue;
    total += weight;
    for (const [sight, p] of predictions[h]?.[test] ?? []) sum.set(sight, (sum.get(sight) ?? 0) + weight * p);
  }
  const words = ["works", ...insteadOf(sense)];
  const mixed = new Map([...sum].map(([sight, w]) => [sight, (1 - ANYTHING) * (w / total)]));
  for (const [i, word] of words.entries()) {
    const share = i === 0 ? ANYTHING / 2 : ANYTHING / 2 / (words.length - 1);
    mixed.set(word, (mixed.get(word) ?? 0) + share);
  }
  return [...mixed];
}

/** Equal predictions are one object, so that they are told apart by identity. */
function interning(): (p: Prediction) => Prediction {
  const known = new Map<string, Prediction>();
  return (p) => {
    const key = JSON.stringify(p);
    const before = known.get(key);
    if (before) return before;
    known.set(key, p);
    return p;
  };
}

function alike(
  hypotheses: readonly Hypothesis[],
  predictions: readonly (readonly Prediction[])[],
  signs: readonly ReadonlySet<string>[],
  intern: (p: Prediction) => Prediction,
): number[] {
  const numbers = new Map<Prediction, number>();
  const first = new Map<string, number>();
  const number = (p: Prediction) => {
    const at = numbers.get(p) ?? numbers.size;
    numbers.set(p, at);
    return at;
  };
  return hypotheses.map((h, i) => {
    if (h.kind === "none" || h.normal) return i;
    const row = (predictions[i] ?? []).map((p) => number(intern(surely(p))));
    const key = `${row.join()} ${[...(signs[i] ?? [])].sort().join()}`;
    const at = first.get(key) ?? i;
    first.set(key, at);
    return at;
  });
}

/** What it nearly always shows: a loose plug and a dead part that take the same away are told apart by looking only. */
function surely(prediction: Prediction): Prediction {
  const [most] = prediction;
  return most ? [[most[0], 1]] : prediction;
}

/**
 * The table for a car as it stands: what lies behind closed panels costs the way there and back.
 *
 * @param reopen minutes to get at parts, beside those of the documents
 */
export function asItStands(table: JudgeTable, reopen: ReadonlyMap<string, number>): JudgeTable {
  if (reopen.size === 0) return table;
  const more = (at: readonly string[]) => Math.max(0, ...at.map((part) => reopen.get(part) ?? 0));
  return {
    ...table,
    looks: table.looks.map((l) => ({ ...l, minutes: l.minutes + more(l.at) })),
    hypotheses: table.hypotheses.map((h) => ({ ...h, reopenMinutes: more(h.at) })),
  };
}
