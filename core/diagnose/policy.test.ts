import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { believe, type Question } from "./belief";
import { type Costs, minutesLeft, rankQuestions } from "./policy";

/** Minutes of looking at all places in an order, repairs left out. */
function inOrder(belief: ArrayLike<number>, minutes: readonly number[], order: readonly number[]): number {
  let [way, sum] = [0, 0];
  for (const place of order) {
    way += minutes[place] as number;
    sum += (belief[place] as number) * way;
  }
  return sum;
}

function* permutations(items: readonly number[]): Generator<number[]> {
  if (items.length === 0) yield [];
  for (const [i, item] of items.entries())
    for (const rest of permutations([...items.slice(0, i), ...items.slice(i + 1)])) yield [item, ...rest];
}

const costsOf = (minutes: readonly number[]): Costs => ({
  settling: minutes.map((m, h) => ({ id: `place ${h}`, minutes: m, hypotheses: [h] })),
  repair: minutes.map(() => 0),
});

describe("going from place to place", () => {
  it("takes the best of all orders", () => {
    // That chance over cost is the best order for one fault: Heckerman, Breese and Rommelse (1995).
    const case_ = fc.array(
      fc.record({ p: fc.integer({ min: 5, max: 50 }), minutes: fc.integer({ min: 1, max: 30 }) }),
      {
        minLength: 2,
        maxLength: 6,
      },
    );
    fc.assert(
      fc.property(case_, (places) => {
        const belief = believe(
          places.map((x) => x.p),
          [],
        );
        const minutes = places.map((x) => x.minutes);
        const orders = [...permutations(places.map((_, i) => i))];
        const best = Math.min(...orders.map((o) => inOrder(belief, minutes, o)));
        expect(minutesLeft(belief, costsOf(minutes))).toBeCloseTo(best, 9);
      }),
      { numRuns: 60 },
    );
  });

  it("costs nothing at a place where one has looked just now", () => {
    const costs = costsOf([10, 10]);
    const belief = believe([3, 1], []);
    expect(minutesLeft(belief, costs)).toBeCloseTo(0.75 * 10 + 0.25 * 20, 9);
    expect(minutesLeft(belief, costs, ["place 0"])).toBeCloseTo(0.75 * 0.01 + 0.25 * 10.01, 6);
  });

  it("is not longer than asking on at the best rate and looking once", () => {
    const costs = { ...costsOf([10, 10, 10, 10]), bitsPerMinute: 2 };
    expect(minutesLeft(believe([1, 1, 1, 1], []), costs)).toBeCloseTo(2 / 2 + 10, 9);
  });
});

describe("the next question", () => {
  const SURE = 1;
  const places = [8, 8, 8, 8];
  const split = (id: string, minutes: number, yes: readonly number[]): Question => {
    const likely = Float64Array.from(places, (_, h) => (yes.includes(h) ? SURE : 0));
    return { id, minutes, answers: [likely, likely.map((p) => 1 - p)] };
  };
  const even = believe([1, 1, 1, 1], []);
  const rank = (...questions: Question[]) => rankQuestions(even, questions, costsOf(places)).map((r) => r.question.id);

  it("is the one that halves what is left, and of two the cheap one", () => {
    expect(rank(split("slow half", 4, [0, 1]), split("one", 1, [0]), split("half", 1, [0, 1]))).toEqual([
      "half",
      "one",
      "slow half",
    ]);
  });

  it("is not asked when it says nothing", () => {
    expect(rank(split("nothing", 0.1, [0, 1, 2, 3]))).toEqual([]);
  });

  it("is looked at two steps ahead: two halves together are worth more than either alone", () => {
    const [first] = rankQuestions(even, [split("left", 2, [0, 1]), split("even", 2, [0, 2])], costsOf(places));
    // One half leaves two places: 8 and 16 minutes; both halves leave one: 8.
    expect(first?.minutes).toBeCloseTo(2 + Math.min(12, 2 + 8), 6);
  });
});
