/** The rule by which units of the stand-in car want their key. Invented for it; no real unit has it. */
export function standInKey(level: number, seed: readonly number[]): number[] {
  return seed.map((b, i) => (((b << 3) | (b >> 5)) & 0xff) ^ (0x5a + level + i));
}
