import { seededRandom } from "./random";

/** Status byte of a code that is stored and not active now (ISO 14229-1: confirmed, test failed since cleared). */
export const CONFIRMED = 0x28;

/** Codes that parts of a stand-in car may have had before anybody came: two bytes and the kind of failure. */
export const OLD_CODES: readonly { part: string; bytes: readonly [number, number, number]; text: string }[] = [
  { part: "radio", bytes: [0x9a, 0x42, 0x11], text: "antenna supply, short to ground" },
  { part: "bodyComputer", bytes: [0xc1, 0x40, 0x00], text: "no message for a time" },
];

/** Which of them are stored follows from the seed, so the same car reads the same. Every car has one at least. */
export function oldCodes(seed: number, part: string): typeof OLD_CODES {
  return OLD_CODES.filter(
    (o, i) => o.part === part && ((seed + i) % OLD_CODES.length === 0 || seededRandom(seed + i)() < 0.7),
  );
}
