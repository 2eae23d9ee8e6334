/**
 * What to do next, by expected minutes to a repair that is proven. Without asking anything more one would look at one
 * place after the other, that with the highest chance for a minute first: for a single fault this order is the best
 * (Heckerman, Breese and Rommelse, Decision-theoretic troubleshooting, Communications of the ACM 38, 1995). A question is
 * worth asking when it shortens that way by more than it takes.
 */
import { type Belief, entropyBits, expectedAfter, type Question } from "./belief";

/** One place to look at, and the hypotheses that this would settle. */
export interface Settling {
  /** The question that looks there. */
  id: string;
  minutes: number;
  hypotheses: readonly number[];
}

export interface Costs {
  settling: readonly Settling[];
  /** Minutes to put right, by hypothesis. */
  repair: readonly number[];
  /** How fast questions tell the rest apart, in bits a minute; none where nothing can be asked. */
  bitsPerMinute?: number;
}

/** Minutes of a place at which one stands already; above nothing, so that there is an order. */
const AT_HAND = 0.01;
/** Places with less chance than this are not worth a visit. */
const NOT_WORTH = 1e-4;

/**
 * Expected minutes when one looks at place after place and repairs what is found.
 *
 * @param looked places where somebody has looked just now
 */
export function minutesLeft(
  belief: Belief,
  { settling, repair, bitsPerMinute }: Costs,
  looked: readonly string[] = [],
): number {
  const visits: { p: number; minutes: number }[] = [];
  for (const place of settling) {
    let p = 0;
    for (const h of place.hypotheses) p += belief[h] as number;
    if (p > NOT_WORTH)
      visits.push({ p, minutes: looked.includes(place.id) ? AT_HAND : Math.max(place.minutes, AT_HAND) });
  }
  visits.sort((a, b) => b.p / b.minutes - a.p / a.minutes);
  let [sum, way] = [0, 0];
  for (const { p, minutes } of visits) {
    way += minutes;
    sum += p * way;
  }
  let repairs = 0;
  for (let h = 0; h < belief.length; h++) repairs += (belief[h] as number) * (repair[h] as number);
  if (!bitsPerMinute) return sum + repairs;
  // Or one asks on until the place is known, and looks only there.
  let [bits, last] = [0, 0];
  for (const { p, minutes } of visits) {
    bits -= p * Math.log2(p);
    last += p * minutes;
  }
  return Math.min(sum, bits / bitsPerMinute + last) + repairs;
}

export interface RankedQuestion {
  question: Question;
  /** Expected minutes to the proven repair when this is asked next. */
  minutes: number;
}

/** Questions that are looked at two steps ahead, and what may follow each. */
const WIDE = 5;
const NARROW = 8;

/**
 * Questions by the expected minutes to a proven repair, the best first; the best few are looked at two steps ahead.
 * Those that say nothing about what is believed are left out.
 */
export function rankQuestions(belief: Belief, questions: readonly Question[], given: Costs): RankedQuestion[] {
  const costs = { ...given, bitsPerMinute: fastest(belief, questions) };
  const left = (...looked: readonly Question[]) => {
    const ids = looked.map((q) => q.id);
    return (b: Belief) => minutesLeft(b, costs, ids);
  };
  const once = questions
    .filter((q) => tells(belief, q))
    .map((question) => ({ question, minutes: question.minutes + expectedAfter(belief, question, left(question)) }))
    .sort(byMinutes);
  const followers = once.slice(0, NARROW).map((r) => r.question);
  const twice = once.slice(0, WIDE).map(({ question }) => ({
    question,
    minutes:
      question.minutes +
      expectedAfter(belief, question, (after) =>
        Math.min(
          left(question)(after),
          ...followers.flatMap((q) => (q === question ? [] : [q.minutes + expectedAfter(after, q, left(question, q))])),
        ),
      ),
  }));
  return [...twice.sort(byMinutes), ...once.slice(WIDE)];
}

/** Bits a minute of the question that tells most in a minute. */
function fastest(belief: Belief, questions: readonly Question[]): number {
  const now = entropyBits(belief);
  return Math.max(
    ...questions.map((q) => (now - expectedAfter(belief, q, entropyBits)) / Math.max(q.minutes, AT_HAND)),
    1e-3,
  );
}

function byMinutes(a: RankedQuestion, b: RankedQuestion): number {
  return a.minutes - b.minutes || (a.question.id < b.question.id ? -1 : 1);
}

/** Some answer is more likely under one hypothesis that is believed than under another. */
function tells(belief: Belief, { answers }: Question): boolean {
  return answers.some((likelihood) => {
    let [low, high] = [Number.POSITIVE_INFINITY, 0];
    for (let h = 0; h < belief.length; h++) {
      if ((belief[h] as number) < 1e-4) continue;
      const p = likelihood[h] as number;
      if (p < low) low = p;
      if (p > high) high = p;
    }
    return high - low > 0.02;
  });
}
