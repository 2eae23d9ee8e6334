import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { cornersOf, photographed, poses } from "../../tests/support/photographed";
import { readBank } from "./bank-photo";

describe("a bank on a photo", () => {
  test("reads every lever, in whatever order and however held", () => {
    fc.assert(
      fc.property(
        poses,
        fc.array(fc.boolean(), { minLength: 4, maxLength: 10 }),
        fc.double({ min: -0.15, max: 0.15, noNaN: true }),
        (p, up, off) => {
          const at = photographed(p.tilt, p.turn, p.roll, p.distance);
          const taps = up.map((on, i) => at((i + 0.5 + off) / up.length, on ? 0.75 : 0.25));
          const read = readBank(cornersOf(at), taps.toReversed(), up.length);
          expect(read.problems).toEqual([]);
          expect(read.missing).toEqual([]);
          expect(read.levers.map((l) => l.side === "upper")).toEqual(up);
        },
      ),
    );
  });

  test("says what is missing, twice, outside or in the middle", () => {
    const at = photographed(0.3, -0.2, 0.1, 25);
    const read = readBank(cornersOf(at), [at(0.1, 0.8), at(0.12, 0.2), at(0.4, 0.52), at(1.2, 0.5), at(0.9, 0.2)], 4);
    expect(read.levers.map((l) => [l.number, l.side])).toEqual([
      [1, "upper"],
      [4, "lower"],
    ]);
    expect(read.missing).toEqual([2, 3]);
    expect(read.problems).toEqual([
      "Switch 1 was tapped twice.",
      "The tap on switch 2 lies in the middle; tap the lever itself.",
      "Tap 4 lies outside the bank.",
    ]);
    expect(readBank([at(0, 1), at(1, 0), at(1, 1), at(0, 0)], [], 4).problems[0]).toMatch(/no quadrilateral/);
  });
});
