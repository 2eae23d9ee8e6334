/** How strongly fields answer, counted beside what chance brings. */
/** How strongly single bits differ between cue and rest, and how strongly by chance. */
export interface Strengths {
  /** Counts of bits by strength in hundredths, as found and with cues at random times (sum over all rounds). */
  found: Float64Array;
  chance: Float64Array;
  rounds: number;
}

const BINS = 101;

export function noStrengths(rounds: number): Strengths {
  return { found: new Float64Array(BINS), chance: new Float64Array(BINS), rounds };
}

/** How many bits are at least so strong by chance, and which share of those that were found that is (0 to 1). */
export function byChance({ found, chance, rounds }: Strengths, strength: number): { expected: number; share: number } {
  const from = Math.floor(100 * strength);
  const sum = (list: Float64Array) => list.subarray(from).reduce((a, b) => a + b, 0);
  const expected = sum(chance) / rounds;
  const real = sum(found);
  return { expected, share: real === 0 ? 1 : Math.min(1, expected / real) };
}

export function add(bins: Float64Array, strength: number): void {
  const bin = Math.min(BINS - 1, Math.floor(100 * strength));
  bins[bin] = (bins[bin] as number) + 1;
}
