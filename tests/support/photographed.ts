/** A rectangle of 8 by 2 photographed from anywhere. */
import fc from "fast-check";
import type { Corners, Point } from "../../core/geometry/unit-square";

/** A pinhole camera that looks at a bank of 8 cm by 2 cm from anywhere: the exact picture, by projecting points in space. */
export function photographed(tilt: number, turn: number, roll: number, distanceCm: number) {
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

export const poses = fc.record({
  tilt: fc.double({ min: -0.8, max: 0.8, noNaN: true }),
  turn: fc.double({ min: -0.8, max: 0.8, noNaN: true }),
  roll: fc.double({ min: -3, max: 3, noNaN: true }),
  distance: fc.double({ min: 15, max: 60, noNaN: true }),
});
/** Upper left, upper right, lower right, lower left; v is up. */
export const cornersOf = (at: (u: number, v: number) => Point): Corners => [at(0, 1), at(1, 1), at(1, 0), at(0, 0)];
