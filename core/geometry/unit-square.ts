/** Four corners of a rectangle as a photo shows them, onto the unit square and back. */
import { Matrix, solve } from "ml-matrix";

/** A point of a photo, in pixels: x to the right, y down. */
export interface Point {
  x: number;
  y: number;
}

/** Upper left, upper right, lower right, lower left. */
export type Corners = readonly [Point, Point, Point, Point];

/** A plane projective map as 3 × 3 numbers, row by row. */
export type PlaneMap = readonly number[];

/**
 * The map that takes four corners to the unit square, u to the right and v down (Hartley and Zisserman, Multiple View
 * Geometry, direct linear transformation with four points; from memory).
 *
 * @returns null for corners that are no convex quadrilateral
 */
export function toUnitSquare(corners: Corners): PlaneMap | null {
  const turn = (a: Point, b: Point, c: Point) => (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);
  const [p, q, r, s] = corners;
  const turns = [turn(p, q, r), turn(q, r, s), turn(r, s, p), turn(s, p, q)];
  const span = Math.hypot(r.x - p.x, r.y - p.y) * Math.hypot(s.x - q.x, s.y - q.y);
  if (turns.some((t) => Math.sign(t) !== Math.sign(turns[0] ?? 0) || Math.abs(t) <= 1e-3 * span)) return null;
  const target = [
    [0, 0],
    [1, 0],
    [1, 1],
    [0, 1],
  ] as const;
  const rows: number[][] = [];
  const right: number[] = [];
  corners.forEach(({ x, y }, i) => {
    const [u, v] = target[i] ?? [0, 0];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  return [...solve(new Matrix(rows), Matrix.columnVector(right)).to1DArray(), 1];
}

/**
 * The map from the unit square to four corners, in closed form (Heckbert, Fundamentals of Texture Mapping, 1989; from
 * memory).
 */
export function fromUnitSquare([p, q, r, s]: Corners): PlaneMap {
  const dx1 = q.x - r.x;
  const dx2 = s.x - r.x;
  const dx3 = p.x - q.x + r.x - s.x;
  const dy1 = q.y - r.y;
  const dy2 = s.y - r.y;
  const dy3 = p.y - q.y + r.y - s.y;
  const area = dx1 * dy2 - dx2 * dy1;
  const g = (dx3 * dy2 - dx2 * dy3) / area;
  const h = (dx1 * dy3 - dx3 * dy1) / area;
  return [q.x - p.x + g * q.x, s.x - p.x + h * s.x, p.x, q.y - p.y + g * q.y, s.y - p.y + h * s.y, p.y, g, h, 1];
}

/** A point under a plane map. */
export function mapPoint(map: PlaneMap, { x, y }: Point): Point {
  const [a = 0, b = 0, c = 0, d = 0, e = 0, f = 0, g = 0, h = 0, i = 1] = map;
  const w = g * x + h * y + i;
  return { x: (a * x + b * y + c) / w, y: (d * x + e * y + f) / w };
}
