/** How likely a person is to report something where a hypothesis predicts something. */
import { answerOf, type InsteadId, insteadOf, readSight, type Sense, type Sight } from "../model/sight";
import type { ContactRef } from "../model/types";

/** What a hypothesis lets a person see at a test, each with its probability; they add up to one. */
export type Prediction = readonly (readonly [sight: string, probability: number])[];

/** Chance that a result was misread or noted wrongly. Our assumption. */
const MISREAD = 0.02;
/** Chance that what fails is told in another word than the model has for it. Our assumption. */
const OTHER_WORD = 0.12;
/** Share of these other words that falls on what is easily taken for it. Our assumption. */
const ALIKE_SHARE = 0.6;
/** Chance that one of several loudspeakers was heard wrongly. Our assumption. */
const MISHEARD = 0.04;
/** Chance that what it breaks off at was told rightly. Our assumption. */
const TOLD_WHEN = 0.96;
const BREAK_COUNT = 4;

/** What people take for one another. Our assumption. */
const ALIKE: readonly (readonly InsteadId[])[] = [
  ["black", "message", "flickers"],
  ["otherPicture", "frozen"],
  ["wrongSize", "mirrored"],
  ["silent", "phoneOnly", "otherSource"],
  ["someSpeakers", "otherSpeakers"],
  ["unheard", "faint"],
  ["shifted", "otherThing"],
  ["comesAndGoes", "breaksOff"],
];

/** A test as far as what is reported about it goes. */
export interface Asked {
  sense: Sense;
  /** Places at which it is noticed. */
  at: readonly ContactRef[];
}

/**
 * Probability of a report under a prediction.
 *
 * @param report a sight key, or only `nothing`, `wrong` or `late` where nobody said more
 */
export function likelihood(test: Asked, prediction: Prediction, report: string): number {
  let sum = 0;
  for (const [sight, probability] of prediction) sum += probability * ofOne(test, sight, report);
  return sum;
}

const known = new Map<string, number>();

function ofOne(test: Asked, sight: string, report: string): number {
  const key = `${test.sense} ${test.at.length} ${sight} ${report}`;
  let value = known.get(key);
  if (value === undefined) {
    value = compute(test, readSight(sight), report);
    known.set(key, value);
  }
  return value;
}

function compute(test: Asked, predicted: Sight, report: string): number {
  if (report === "impossible") return 1;
  if (report === "pass") return ofWord(test.sense, predicted.what, "works");
  const coarse = report === "nothing" || report === "wrong";
  if (coarse)
    return insteadOf(test.sense)
      .filter((what) => answerOf({ what }) === report)
      .reduce((sum, what) => sum + ofWord(test.sense, predicted.what, what), 0);
  const told = readSight(report);
  return ofWord(test.sense, predicted.what, told.what) * ofDetail(test, predicted, told);
}

function ofWord(sense: Sense, predicted: Sight["what"], told: Sight["what"]): number {
  const words = insteadOf(sense);
  if (predicted === "works") return told === "works" ? 1 - MISREAD : MISREAD / words.length;
  if (told === "works") return MISREAD;
  if (told === predicted) return 1 - MISREAD - OTHER_WORD;
  const alike = words.filter((w) => w !== predicted && ALIKE.some((set) => set.includes(w) && set.includes(predicted)));
  const others = words.length - 1 - alike.length;
  const share = alike.length > 0 ? ALIKE_SHARE : 0;
  return OTHER_WORD * (alike.includes(told) ? share / alike.length : (1 - share) / others);
}

/** Which loudspeakers are right, or what it breaks off at; one where nothing more was told. */
function ofDetail(test: Asked, predicted: Sight, told: Sight): number {
  if (told.right) {
    let p = 1;
    for (const at of test.at) {
      const same = predicted.right && predicted.right.includes(at) === told.right.includes(at);
      p *= predicted.right ? (same ? 1 - MISHEARD : MISHEARD) : 0.5;
    }
    return p;
  }
  if (told.at) {
    if (!predicted.at) return 1 / BREAK_COUNT;
    return told.at === predicted.at ? TOLD_WHEN : (1 - TOLD_WHEN) / (BREAK_COUNT - 1);
  }
  return 1;
}
