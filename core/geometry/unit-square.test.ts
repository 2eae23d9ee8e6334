import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { opencv } from "../../tests/support/opencv";
import { cornersOf, photographed, poses } from "../../tests/support/photographed";
import { type Corners, fromUnitSquare, mapPoint, toUnitSquare } from "./unit-square";

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
          const back = map && mapPoint(map, at(u, v));
          expect(back?.x).toBeCloseTo(u, 6);
          expect(back?.y).toBeCloseTo(1 - v, 6);
          const there = mapPoint(fromUnitSquare(cornersOf(at)), { x: u, y: 1 - v });
          expect(there.x).toBeCloseTo(at(u, v).x, 4);
          expect(there.y).toBeCloseTo(at(u, v).y, 4);
        },
      ),
    );
  });

  test("the middle of the photo is not the middle of the rectangle: worked by hand", () => {
    // A trapezium twice as wide below as above: its diagonals cross at two thirds of its height (similar triangles).
    const corners: Corners = [
      { x: 100, y: 0 },
      { x: 200, y: 0 },
      { x: 250, y: 90 },
      { x: 50, y: 90 },
    ];
    const map = toUnitSquare(corners);
    const centre = map && mapPoint(map, { x: 150, y: 30 });
    expect(centre?.x).toBeCloseTo(0.5, 9);
    expect(centre?.y).toBeCloseTo(0.5, 9);
  });

  test("is that of OpenCV", () => {
    const corners: Corners = [
      { x: 210, y: 140 },
      { x: 1830, y: 90 },
      { x: 1900, y: 1210 },
      { x: 150, y: 1130 },
    ];
    const square = [
      [0, 0],
      [1, 0],
      [1, 1],
      [0, 1],
    ];
    const points = [
      [900, 600],
      [300, 200],
      [1700, 1000],
    ];
    const [theirs] = opencv([{ op: "perspective", from: corners.map(({ x, y }) => [x, y]), to: square, points }]);
    points.forEach(([x = 0, y = 0], i) => {
      const mine = mapPoint(toUnitSquare(corners) ?? [], { x, y });
      expect([mine.x, mine.y]).toEqual(theirs?.[i]?.map((v) => expect.closeTo(v, 6)));
    });
  });

  test("corners in the wrong order, in a line or on one spot are no quadrilateral", () => {
    const [a, b, c, d] = cornersOf(photographed(0.2, 0.1, 0, 30));
    expect(toUnitSquare([a, c, b, d])).toBeNull();
    expect(toUnitSquare([a, b, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }, d])).toBeNull();
    expect(toUnitSquare([a, a, a, a])).toBeNull();
  });
});
