/**
 * What to do next, by expected minutes to a repair that is proven. Without asking anything more one would look at one
 * place after the other, that with the highest chance for a minute first: for a single fault this order is the best
 * (Heckerman, Breese and Rommelse, Decision-theoretic troubleshooting, Communications of the ACM 38, 1995). A question is
 * worth asking when it shortens that way by more than it takes.
 */
import { type Belief, expectedAfter, type Question } from "./belief";

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
  /** Minutes when the cause is none of these. */
  none: number;
}

/** Minutes of a place at which one stands already; above nothing, so that there is an order. */
const AT_HAND = 0.01;
/** Places with less chance than this are not worth a visit of their own. */
const NOT_WORTH = 0.004;

/**
 * Expected minutes when one looks at place after place and repairs what is found.
 *
 * @param looked places where somebody has looked just now
 */
export function minutesLeft(belief: Belief, { settling, repair, none }: Costs, looked: readonly string[] = []): number {
  const visits: { p: number; minutes: number }[] = [];
  for (const place of settling) {
    let p = 0;
    for (const h of place.hypotheses) p += belief[h] as number;
    if (p > NOT_WORTH)
      visits.push({ p, minutes: looked.includes(place.id) ? AT_HAND : Math.max(place.minutes, AT_HAND) });
  }
  visits.sort((a, b) => b.p / b.minutes - a.p / a.minutes);
  let [sum, way, found] = [0, 0, 0];
  for (const { p, minutes } of visits) {
    way += minutes;
    sum += p * way;
    found += p;
  }
  for (let h = 0; h < belief.length; h++) sum += (belief[h] as number) * (repair[h] as number);
  return sum + Math.max(0, 1 - found) * (way + none);
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
export function rankQuestions(belief: Belief, questions: readonly Question[], costs: Costs): RankedQuestion[] {
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
