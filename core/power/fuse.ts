/** Blade fuses: ratings, colours, times, and the two fuses of a tap. */
import { PowerError } from "./wire";

/** Ratings in ampere with the colour of the body. ISO 8820-3 (from memory). */
export const FUSE_COLOURS: ReadonlyMap<number, string> = new Map([
  [2, "grey"],
  [3, "violet"],
  [5, "tan"],
  [7.5, "brown"],
  [10, "red"],
  [15, "blue"],
  [20, "yellow"],
  [25, "clear"],
  [30, "green"],
]);

/** Sizes of blade fuses, in plain words for what lies in a shop's drawer. */
export const FUSE_FAMILIES = ["micro", "mini", "low mini", "standard", "maxi"] as const;
export type FuseFamily = (typeof FUSE_FAMILIES)[number];

/** Shortest and longest opening time in seconds at multiples of the rating. ISO 8820-3 (from memory). */
const OPENING: readonly [times: number, least: number, most: number][] = [
  [1.35, 0.75, 600],
  [2, 0.15, 5],
  [3.5, 0.04, 0.5],
];
/** At this multiple it holds for 100 hours. Same source. */
const HOLDS = 1.1;

/**
 * How long a blade fuse takes to open at a current, between its limits; null when it holds. Between the points of the
 * standard by straight lines in double logarithmic scale, above the last by that point.
 *
 * @throws {PowerError} for a rating that blade fuses do not have
 */
export function openingTimeS(ratingA: number, currentA: number): { least: number; most: number } | null {
  if (!FUSE_COLOURS.has(ratingA))
    throw new PowerError(
      "fuse",
      `there is no blade fuse of ${ratingA} A.`,
      `Choose one of ${[...FUSE_COLOURS.keys()].join(", ")} A.`,
    );
  const times = currentA / ratingA;
  if (times <= HOLDS) return null;
  const [first, , last] = OPENING as [(typeof OPENING)[number], unknown, (typeof OPENING)[number]];
  if (times < first[0]) return { least: first[1], most: Number.POSITIVE_INFINITY };
  if (times >= last[0]) return { least: 0, most: last[2] };
  const above = OPENING.findIndex((p) => p[0] > times);
  const [a, b] = [OPENING[above - 1], OPENING[above]] as [(typeof OPENING)[number], (typeof OPENING)[number]];
  const part = Math.log(times / a[0]) / Math.log(b[0] / a[0]);
  const between = (x: number, y: number) => Math.exp(Math.log(x) + part * Math.log(y / x));
  return { least: between(a[1], b[1]), most: between(a[2], b[2]) };
}

/** A steady load shall not take more than this part of a fuse's rating; common practice. */
const STEADY_PART = 0.8;

/** The smallest blade fuse for a load: four fifths of it carry the load, and a start-up peak does not open it. */
export function fuseFor(steadyA: number, peakA = steadyA, peakS = 1): number | null {
  for (const ratingA of FUSE_COLOURS.keys()) {
    if (steadyA > ratingA * STEADY_PART) continue;
    const opens = openingTimeS(ratingA, peakA);
    if (opens === null || opens.least > peakS) return ratingA;
  }
  return null;
}

export interface Tap {
  /** Stays for the circuit that was there. */
  originalA: number;
  addedA: number;
  colours: { original: string; added: string };
  family: FuseFamily;
  /** What to look at before the tap goes in. */
  say: string;
}

/** The two fuses of a tap; null when the added load needs more than a tap carries. */
export function tapFor(position: { ratingA: number; family: FuseFamily }, steadyA: number, peakA?: number): Tap | null {
  const addedA = fuseFor(steadyA, peakA);
  if (addedA === null || addedA > MAX_ON_TAP_A) return null;
  const colour = (a: number) => FUSE_COLOURS.get(a) ?? "see its number";
  return {
    originalA: position.ratingA,
    addedA,
    colours: { original: colour(position.ratingA), added: colour(addedA) },
    family: position.family,
    say: "Tester on the supply contact with the fuse out: that contact takes the leg of the tap beside the wire, so that the new branch is behind its own fuse.",
  };
}

/** Which way round a tap sits, by the tester on the new branch with the original fuse out and the key on. */
export function tapOrientation(lit: boolean): { right: boolean; say: string } {
  return lit
    ? { right: true, say: "The new branch has its own fuse: it stays lit without the original one." }
    : {
        right: false,
        say: "The new branch hangs behind the original fuse, which now carries both loads. Pull the tap, turn it round, test again.",
      };
}

/** Taps in use are made for ten ampere on the added branch; common practice. */
const MAX_ON_TAP_A = 10;
