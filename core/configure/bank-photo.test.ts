import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type Corners, onSquare, type Point, readBank, toUnitSquare } from "./bank-photo";

/** A pinhole camera that looks at a bank of 8 cm by 2 cm from anywhere: the exact picture, by projecting points in space. */
function photographed(tilt: number, turn: number, roll: number, distanceCm: number) {
  const [ct, st, cy, sy, cr, sr] = [tilt, turn, roll].flatMap((a) => [Math.cos(a), Math.sin(a)]) as [
    number,
    number,
    number,
    number,
    number,
    number,
  ];
  return (u: number, v: number): Point => {
    const [x0, y0] = [8 * (u - 0.5), 2 * (0.5 - v)];
    const [x1, y1] = [x0 * cr - y0 * sr, x0 * sr + y0 * cr];
    const [x2, z2] = [x1 * cy, x1 * sy];
    const [y3, z3] = [y1 * ct - z2 * st, y1 * st + z2 * ct];
    const depth = distanceCm + z3;
    return { x: 1500 + (3000 * x2) / depth, y: 1000 + (3000 * y3) / depth };
  };
}

const poses = fc.record({
  tilt: fc.double({ min: -0.8, max: 0.8, noNaN: true }),
  turn: fc.double({ min: -0.8, max: 0.8, noNaN: true }),
  roll: fc.double({ min: -3, max: 3, noNaN: true }),
  distance: fc.double({ min: 15, max: 60, noNaN: true }),
});
const cornersOf = (at: (u: number, v: number) => Point): Corners => [at(0, 1), at(1, 1), at(1, 0), at(0, 0)];

describe("the perspective of a photo", () => {
  test("is taken out exactly, from any side", () => {
    fc.assert(
      fc.property(
        poses,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (p, u, v) => {
          const at = photographed(p.tilt, p.turn, p.roll, p.distance);
          const map = toUnitSquare(cornersOf(at));
          expect(map).not.toBeNull();
          const back = map && onSquare(map, at(u, v));
          expect(back?.u).toBeCloseTo(u, 6);
          expect(back?.v).toBeCloseTo(v, 6);
        },
      ),
    );
  });

  test("the middle of the picture is not the middle of the bank: worked by hand", () => {
    // A trapezium twice as wide below as above: its diagonals cross at two thirds of its height (similar triangles).
    const corners: Corners = [
      { x: 100, y: 0 },
      { x: 200, y: 0 },
      { x: 250, y: 90 },
      { x: 50, y: 90 },
    ];
    const map = toUnitSquare(corners);
    const centre = map && onSquare(map, { x: 150, y: 30 });
    expect(centre?.u).toBeCloseTo(0.5, 9);
    expect(centre?.v).toBeCloseTo(0.5, 9);
  });

  test("corners in the wrong order, in a line or on one spot are no quadrilateral", () => {
    const [a, b, c, d] = cornersOf(photographed(0.2, 0.1, 0, 30));
    expect(toUnitSquare([a, c, b, d])).toBeNull();
    expect(toUnitSquare([a, b, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, d])).toBeNull();
    expect(toUnitSquare([a, a, a, a])).toBeNull();
  });
});

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
