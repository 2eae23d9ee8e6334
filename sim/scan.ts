import { codesFromAnswer } from "../core/intake/fault-codes";
import { seededRandom } from "./random";

/** Fault memory of the stand-in car: what its modules answer to “read fault codes by status mask”. */
const MEMORY: readonly { module: string; codes: readonly (readonly [number, number, number, string])[] }[] = [
  { module: "Radio", codes: [[0x9a, 0x42, 0x11, "antenna supply, short to ground"]] },
  { module: "Gateway", codes: [] },
  { module: "Body computer", codes: [[0xc1, 0x40, 0x00, "no message for a time"]] },
];
const CONFIRMED = 0x08;

/**
 * Reads the fault memory of the stand-in car, module by module, as a reader prints it. Which of its old codes are
 * stored follows from the seed, so the same job reads the same.
 */
export function scanStandIn(seed: number): string {
  const random = seededRandom(seed);
  return MEMORY.flatMap(({ module, codes }) => {
    const stored = codes.filter(() => random() < 0.7);
    const answer = Uint8Array.from([
      0x59,
      0x02,
      0xff,
      ...stored.flatMap(([high, low, kind]) => [high, low, kind, CONFIRMED]),
    ]);
    const read = codesFromAnswer(answer);
    if (read.length === 0) return [];
    return [`${module}:`, ...read.map((r, i) => `${r.code} ${stored[i]?.[3] ?? ""}`)];
  }).join("\n");
}
