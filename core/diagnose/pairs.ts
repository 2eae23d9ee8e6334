import { type Fault, singleFaults, type Touched } from "../model/faults";
import { Model } from "../model/outcome";
import type { System } from "../model/types";
import type { Test } from "../prove/tests";

/** What every test would show under every two faults at once. */
export interface PairTable {
  faults: readonly Fault[];
  tests: readonly Test[];
  /** Outcome key of a test under two faults; either order. */
  outcome(one: number, two: number, test: number): string;
}

/**
 * Simulates all pairs of single faults of a system against all tests. What the second fault cannot change of what the
 * first one leaves is taken over and not simulated again.
 *
 * @param progress called after each first fault with done and total; return false to stop
 * @returns null when it was stopped
 */
export function simulatePairs(
  system: System,
  tests: readonly Test[],
  touched: Touched,
  progress?: (done: number, total: number) => boolean | undefined,
): PairTable | null {
  const faults = singleFaults(system, touched);
  const words: string[] = [];
  const numbers = new Map<string, number>();
  const number = (key: string) => {
    let n = numbers.get(key);
    if (n === undefined) {
      n = words.push(key) - 1;
      numbers.set(key, n);
    }
    return n;
  };
  const keys = new Uint16Array(faults.length * faults.length * tests.length);
  const slot = (one: number, two: number) => (one * faults.length + two) * tests.length;
  const sound = new Model(system, {}, touched.planned);
  const models = faults.map((f) => sound.under(f.disturbance));
  for (const [i, one] of models.entries()) {
    for (let j = i; j < faults.length; j++) {
      const both = j === i ? one : one.and(models[j] as Model);
      for (const [t, test] of tests.entries()) keys[slot(i, j) + t] = number(both.sight(test.fn, test.situationId));
    }
    if (progress?.(i + 1, faults.length) === false) return null;
  }
  return {
    faults,
    tests,
    outcome: (one, two, test) => words[keys[slot(Math.min(one, two), Math.max(one, two)) + test] as number] ?? "ok",
  };
}
