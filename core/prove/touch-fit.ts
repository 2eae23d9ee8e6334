/**
 * Where the picture reacts when five targets are touched: an affine map by least squares, and what it means. Places are
 * shares of the picture: x from its left edge, y from its top.
 */
import { Matrix, SingularValueDecomposition, solve } from "ml-matrix";
import { type Place, TARGET_IDS, TARGETS, type TargetId } from "./touch-targets";

/** x' = a·x + b·y + c, y' = d·x + e·y + f. */
export interface AffineMap {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}

/** How the picture can stand to the glass, by what x and y become about the centre. */
const STANDS: readonly { name: string; m: readonly [number, number, number, number] }[] = [
  { name: "straight", m: [1, 0, 0, 1] },
  { name: "mirrored left to right", m: [-1, 0, 0, 1] },
  { name: "mirrored top to bottom", m: [1, 0, 0, -1] },
  { name: "turned by half", m: [-1, 0, 0, -1] },
  { name: "turned a quarter to the right", m: [0, -1, 1, 0] },
  { name: "turned a quarter to the left", m: [0, 1, -1, 0] },
  { name: "with left-right and up-down exchanged", m: [0, 1, 1, 0] },
  { name: "exchanged and turned by half", m: [0, -1, -1, 0] },
];

/** A finger hits a target to about a fifth of its distance from the edge (our assumption). */
const NEAR = 0.06;
/** An axis that moves the reaction by less of its length does not count. */
const DEAD = 0.15;

export type TouchOutcome =
  | { kind: "open"; left: TargetId[] }
  | { kind: "right"; worst: number }
  /** Nothing reacts, here or anywhere. */
  | { kind: "dead"; where: TargetId[] }
  /** One direction of the finger changes nothing. */
  | { kind: "axisDead"; axis: "left-right" | "up-down" }
  /** `scale` and `shift` of what is left beside how it stands, in shares of the picture. */
  | { kind: "mapped"; stand: string; scale: Place; shift: Place; worst: number }
  /** No straight map explains it. */
  | { kind: "uneven"; worst: number; at: TargetId };

/**
 * Fits the map by least squares.
 *
 * @returns null when fewer than three places are known, or they lie on a line
 */
export function fitAffine(pairs: readonly { from: Place; to: Place }[]): AffineMap | null {
  const places = new Matrix(pairs.map(({ from }) => [from.x, from.y, 1]));
  if (pairs.length < 3 || new SingularValueDecomposition(places).rank < 3) return null;
  const map = solve(places, new Matrix(pairs.map(({ to }) => [to.x, to.y])));
  const [a, d, b, e, c, f] = map.to1DArray() as [number, number, number, number, number, number];
  return { a, b, c, d, e, f };
}

/** What follows from what was touched. @param reacted null: nothing reacts at this target */
export function touchOutcome(reacted: ReadonlyMap<TargetId, Place | null>): TouchOutcome {
  const left = TARGET_IDS.filter((t) => !reacted.has(t));
  if (left.length > 0) return { kind: "open", left };
  const silent = TARGET_IDS.filter((t) => reacted.get(t) === null);
  if (silent.length > 0) return { kind: "dead", where: silent };
  const pairs = TARGET_IDS.map((id) => ({ id, from: TARGETS[id].at, to: reacted.get(id) as Place }));
  const worst = Math.max(...pairs.map(({ from, to }) => Math.hypot(to.x - from.x, to.y - from.y)));
  if (worst <= NEAR) return { kind: "right", worst };
  // The targets are never on a line, so there is a map.
  const map = fitAffine(pairs) as AffineMap;
  if (Math.hypot(map.a, map.d) < DEAD) return { kind: "axisDead", axis: "left-right" };
  if (Math.hypot(map.b, map.e) < DEAD) return { kind: "axisDead", axis: "up-down" };
  const off = pairs.map(({ id, from, to }) => ({
    id,
    by: Math.hypot(map.a * from.x + map.b * from.y + map.c - to.x, map.d * from.x + map.e * from.y + map.f - to.y),
  }));
  const most = off.reduce((m, o) => (o.by > m.by ? o : m));
  if (most.by > NEAR) return { kind: "uneven", worst: most.by, at: most.id };
  // Of the eight ways a picture can stand, the one to which the map is nearest.
  const distance = ([p, q, r, s]: readonly [number, number, number, number]) =>
    (map.a - p) ** 2 + (map.b - q) ** 2 + (map.d - r) ** 2 + (map.e - s) ** 2;
  const { name, m } = STANDS.reduce((best, s) => (distance(s.m) < distance(best.m) ? s : best));
  const centre = { x: map.a / 2 + map.b / 2 + map.c - 0.5, y: map.d / 2 + map.e / 2 + map.f - 0.5 };
  return {
    kind: "mapped",
    stand: name,
    scale: { x: m[0] !== 0 ? map.a / m[0] : map.b / m[1], y: m[3] !== 0 ? map.e / m[3] : map.d / m[2] },
    shift: centre,
    worst,
  };
}
