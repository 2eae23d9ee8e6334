/**
 * Lenses: from the direction of a ray to its place in the picture and back. Directions are in the camera's own axes, x to
 * the right, y down, z forward; a place is x and y from the middle of the picture in units of the focal length.
 *
 * Laws: `straight` is the pinhole with the radial terms of Brown and Conrady on r = tan θ; `fisheye` is equidistant,
 * r = θ, with the same polynomial on θ. Both as OpenCV computes them (checked against it in lens.test.ts).
 */

export type Law = "straight" | "fisheye";

export interface Lens {
  law: Law;
  /** Focal length in widths of the picture. */
  focal: number;
  /** Radial terms: r(1 + k1·r² + k2·r⁴). */
  k1: number;
  k2: number;
}

export type Vector = readonly [number, number, number];

const DEG = Math.PI / 180;

/** A lens by the angle that it shows from the left to the right edge of the picture, in degrees. */
export function lensAcross(law: Law, acrossDeg: number, k1 = 0, k2 = 0): Lens {
  const half = (acrossDeg / 2) * DEG;
  return { law, focal: 0.5 / bent({ k1, k2 }, law === "straight" ? Math.tan(half) : half), k1, k2 };
}

/** The angle from the left to the right edge, in degrees; NaN when the terms let no ray reach the edge. */
export function acrossDeg(lens: Lens): number {
  const r = straightened(lens, 0.5 / lens.focal);
  return r === null ? Number.NaN : (2 * angleOf(lens.law, r)) / DEG;
}

/** Where a ray meets the picture; null when the lens cannot see it: behind, or past where its terms fold back. */
export function throughLens(lens: Lens, [x, y, z]: Vector): { x: number; y: number } | null {
  const across = Math.hypot(x, y);
  if (lens.law === "straight" && z <= 0) return null;
  const r = lens.law === "straight" ? across / z : Math.atan2(across, z);
  if (r > foldsAt(lens)) return null;
  // Near the axis both laws are the pinhole.
  const scale = across < 1e-12 ? 1 / Math.abs(z) : bent(lens, r) / across;
  return { x: x * scale, y: y * scale };
}

/** Unit direction of the ray at a place of the picture; null where the lens shows nothing. */
export function rayAt(lens: Lens, x: number, y: number): Vector | null {
  const far = Math.hypot(x, y);
  const r = straightened(lens, far);
  if (r === null) return null;
  const angle = angleOf(lens.law, r);
  if (angle > Math.PI) return null;
  if (far < 1e-12) return [0, 0, 1];
  const sine = Math.sin(angle) / far;
  return [x * sine, y * sine, Math.cos(angle)];
}

function angleOf(law: Law, r: number): number {
  return law === "straight" ? Math.atan(r) : r;
}

function bent({ k1, k2 }: Pick<Lens, "k1" | "k2">, r: number): number {
  const r2 = r * r;
  return r * (1 + r2 * (k1 + r2 * k2));
}

/** The radius from which the polynomial falls again; Infinity when it never does. */
function foldsAt({ k1, k2 }: Lens): number {
  // 1 + 3 k1 s + 5 k2 s² = 0 with s = r²: its smallest positive root.
  if (Math.abs(k2) < 1e-12) return k1 < 0 ? Math.sqrt(-1 / (3 * k1)) : Number.POSITIVE_INFINITY;
  const root = 9 * k1 * k1 - 20 * k2;
  if (root < 0) return Number.POSITIVE_INFINITY;
  const both = [(-3 * k1 - Math.sqrt(root)) / (10 * k2), (-3 * k1 + Math.sqrt(root)) / (10 * k2)];
  return Math.sqrt(Math.min(...both.filter((s) => s > 0), Number.POSITIVE_INFINITY));
}

/** The radius before the terms; by Newton's method, kept below the fold. */
function straightened(lens: Lens, far: number): number | null {
  const fold = foldsAt(lens);
  if (Number.isFinite(fold) && far > bent(lens, fold)) return null;
  let low = 0;
  let high = Number.isFinite(fold) ? fold : Math.max(far, 1);
  while (bent(lens, high) < far) high *= 2;
  let r = Math.min(far, high);
  for (let i = 0; i < 60; i++) {
    const error = bent(lens, r) - far;
    if (Math.abs(error) <= 1e-15 * Math.max(1, far)) break;
    if (error > 0) high = r;
    else low = r;
    const slope = 1 + r * r * (3 * lens.k1 + 5 * lens.k2 * r * r);
    const next = r - error / slope;
    r = next > low && next < high ? next : (low + high) / 2;
  }
  return r;
}
