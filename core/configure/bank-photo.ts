/** A bank of switches read from a photo: a person taps its corners and each lever, the perspective is taken out. */
import { Matrix, solve } from "ml-matrix";

/** A point of the photo, in pixels. */
export interface Point {
  x: number;
  y: number;
}

/** Corners of the row of switches: upper left at switch 1, upper right, lower right, lower left. */
export type Corners = readonly [Point, Point, Point, Point];

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
 * The plane projective map that takes four points to the unit square, as 3 × 3 matrix (Hartley and Zisserman, Multiple
 * View Geometry, direct linear transformation with four points; from memory).
 *
 * @returns null for corners that are no convex quadrilateral
 */
export function toUnitSquare(corners: Corners): Matrix | null {
  const turn = (a: Point, b: Point, c: Point) => (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x);
  const [p, q, r, s] = corners;
  const turns = [turn(p, q, r), turn(q, r, s), turn(r, s, p), turn(s, p, q)];
  const span = Math.hypot(r.x - p.x, r.y - p.y) * Math.hypot(s.x - q.x, s.y - q.y);
  if (turns.some((t) => Math.sign(t) !== Math.sign(turns[0] ?? 0) || Math.abs(t) <= 1e-3 * span)) return null;
  const target = [
    [0, 1],
    [1, 1],
    [1, 0],
    [0, 0],
  ] as const;
  const rows: number[][] = [];
  const right: number[] = [];
  corners.forEach(({ x, y }, i) => {
    const [u, v] = target[i] ?? [0, 0];
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y], [0, 0, 0, x, y, 1, -v * x, -v * y]);
    right.push(u, v);
  });
  const h = solve(new Matrix(rows), Matrix.columnVector(right)).to1DArray();
  return new Matrix([
    [h[0] ?? 0, h[1] ?? 0, h[2] ?? 0],
    [h[3] ?? 0, h[4] ?? 0, h[5] ?? 0],
    [h[6] ?? 0, h[7] ?? 0, 1],
  ]);
}

/** A point of the photo on the unit square: u along the row, v from the lower to the upper edge. */
export function onSquare(map: Matrix, { x, y }: Point): { u: number; v: number } {
  const [u = 0, v = 0, w = 1] = map.mmul(Matrix.columnVector([x, y, 1])).to1DArray();
  return { u: u / w, v: v / w };
}

/**
 * Reads which way each lever stands.
 *
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
    const { u, v } = onSquare(map, point);
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
