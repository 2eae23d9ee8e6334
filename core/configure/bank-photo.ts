/** A bank of switches read from a photo: a person taps its corners and each lever, the perspective is taken out. */
import { type Corners, mapPoint, type Point, toUnitSquare } from "../geometry/unit-square";

/** Where a lever stands between the lower edge (0) and the upper edge (1) of the bank, and on which side of the middle. */
export interface Lever {
  number: number;
  at: number;
  side: "upper" | "lower";
}

export interface BankRead {
  levers: Lever[];
  /** Switches on which nobody has tapped. */
  missing: number[];
  /** What cannot be right, in words. */
  problems: string[];
}

/** So near to the middle a tap says nothing about the side. */
const MIDDLE = 0.08;

/**
 * Reads which way each lever stands.
 *
 * @param corners the upper left one at switch 1
 * @param levers one tap on every lever, in any order
 */
export function readBank(corners: Corners, levers: readonly Point[], switches: number): BankRead {
  const map = toUnitSquare(corners);
  if (!map)
    return {
      levers: [],
      missing: Array.from({ length: switches }, (_, i) => i + 1),
      problems: [
        "The four corners make no quadrilateral. Tap them in turn: upper left at switch 1, upper right, lower right, lower left.",
      ],
    };
  const problems: string[] = [];
  const found = new Map<number, Lever>();
  levers.forEach((point, i) => {
    const { x: u, y: down } = mapPoint(map, point);
    const v = 1 - down;
    const number = Math.floor(u * switches) + 1;
    if (u < 0 || u >= 1 || v < 0 || v > 1) problems.push(`Tap ${i + 1} lies outside the bank.`);
    else if (Math.abs(v - 0.5) < MIDDLE)
      problems.push(`The tap on switch ${number} lies in the middle; tap the lever itself.`);
    else if (found.has(number)) problems.push(`Switch ${number} was tapped twice.`);
    else found.set(number, { number, at: v, side: v > 0.5 ? "upper" : "lower" });
  });
  const all = Array.from({ length: switches }, (_, i) => i + 1);
  return {
    levers: [...found.values()].sort((a, b) => a.number - b.number),
    missing: all.filter((n) => !found.has(n)),
    problems,
  };
}
