/** Times: three-point estimates, and what the shop's own closed jobs say. */
import type { Minutes } from "../model/profile";

/** Mean of a three-point estimate, (a + 4 m + b) / 6. Malcolm, Roseboom, Clark and Fazar, Operations Research 7 (1959). */
export function expectedMinutes({ low, likely: usual, high }: Minutes): number {
  return (low + 4 * usual + high) / 6;
}

/** Variance of a three-point estimate, ((b - a) / 6)². Same source. */
export function varianceOf({ low, high }: Minutes): number {
  return ((high - low) / 6) ** 2;
}

/** The sum of independent durations as a range that holds nine times of ten, by the normal approximation. */
export function rangeOf(durations: readonly Minutes[], extra = 0): Minutes {
  const mean = durations.reduce((sum, d) => sum + expectedMinutes(d), extra);
  const spread = NINE_OF_TEN * Math.sqrt(durations.reduce((sum, d) => sum + varianceOf(d), 0));
  return { low: Math.max(0, mean - spread), likely: mean, high: mean + spread };
}

/** Quantile of the standard normal distribution at 95 %: 5 % lie above, 5 % below. */
const NINE_OF_TEN = 1.645;

/**
 * Quantile of a sample, linear between order statistics (type 7 of Hyndman and Fan, The American Statistician 50, 1996).
 *
 * @param sorted ascending, not empty
 * @param p 0 to 1
 */
export function quantile(sorted: readonly number[], p: number): number {
  const at = (sorted.length - 1) * p;
  const below = sorted[Math.floor(at)] as number;
  const above = sorted[Math.ceil(at)] as number;
  return below + (above - below) * (at - Math.floor(at));
}

/** From how many measured times on the plan's own estimate no longer counts. */
export const ENOUGH_JOBS = 5;

export interface Estimate extends Minutes {
  /** How many closed jobs it rests on beside the plan; from five on, on them alone. */
  jobs: number;
}

/**
 * The estimate of a step after some closed jobs. Robust: median and the outer tenths, never the mean. With fewer than
 * five times the plan's estimate still counts: the usual value moves towards the median by n/5, and the range only
 * grows, since few times say little about the spread.
 */
export function learnMinutes(plan: Minutes, measured: readonly number[]): Estimate {
  const sorted = measured.filter((m) => m > 0).sort((a, b) => a - b);
  const n = sorted.length;
  if (n === 0) return { ...plan, jobs: 0 };
  const median = quantile(sorted, 0.5);
  if (n >= ENOUGH_JOBS) return { low: quantile(sorted, 0.1), likely: median, high: quantile(sorted, 0.9), jobs: n };
  const usual = plan.likely + ((median - plan.likely) * n) / ENOUGH_JOBS;
  return {
    low: Math.min(plan.low, sorted[0] as number, usual),
    likely: usual,
    high: Math.max(plan.high, sorted[n - 1] as number, usual),
    jobs: n,
  };
}
