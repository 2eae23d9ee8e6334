/** Seeded random numbers from 0 to 1 (linear congruential, constants of Numerical Recipes). */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A seed out of an identifier: the same job has the same car. */
export function seedOf(id: string): number {
  return Number.parseInt(id.replaceAll("-", "").slice(-8), 16);
}
