/** A field that follows a level, and how much of it the field explains. */
import type { Stream } from "./streams";

export interface LevelField {
  stream: Stream;
  startBit: number;
  length: number;
  littleEndian: boolean;
  signed: boolean;
}

export interface LevelFinding extends LevelField {
  /** Level = factor · raw + offset. */
  factor: number;
  offset: number;
  /** Share of the differences between the levels that the field explains, 0 to 1 (R squared). */
  explains: number;
  /** Largest distance of a stretch from its level, in the unit of the level. */
  worst: number;
  /** Top bits that never changed: the field may be shorter or longer there. */
  still: number;
}

/** Fields that explain less are not told. */
export const EXPLAINS = 0.9;

export interface Samples {
  points: Int32Array;
  level: Float64Array;
}

/** R squared of a straight line through level and value; values above half may be negative ones. */
export function explained(values: Float64Array, level: Float64Array): number {
  const n = values.length;
  let [sx, sy, sxx, syy, sxy] = [0, 0, 0, 0, 0];
  for (let i = 0; i < n; i++) {
    const [x, y] = [values[i] as number, level[i] as number];
    sx += x;
    sy += y;
    sxx += x * x;
    syy += y * y;
    sxy += x * y;
  }
  const vx = sxx - (sx * sx) / n;
  const vy = syy - (sy * sy) / n;
  const c = sxy - (sx * sy) / n;
  return vx <= 0 || vy <= 0 ? 0 : (c * c) / (vx * vy);
}
