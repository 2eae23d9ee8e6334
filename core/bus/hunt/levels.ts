/** Levels: fields whose value follows a number that was held, such as an angle or a speed. */
import { unsignedReader } from "../bits";
import { signalBits } from "../dbc-messages";
import type { Frames } from "../frames";
import { isProtection } from "../protection";
import type { Segment } from "./cues";
import { EXPLAINS, explained, type LevelField, type LevelFinding, type Samples } from "./level-finding";
import { quality, refine } from "./level-width";
import { type Grid, pointAt, type StreamBits } from "./streams";

/** Values looked at in each stretch. */
const SAMPLES = 8;

const WIDTHS = [8, 12, 16] as const;

/** A level moves at least so many bits. */
const LEAST_BITS = 4;

const ORDERS = [true, false] as const;

/** Points inside the stretches that have a level, and the levels. */
export function samplesOf(grid: Grid, list: readonly Segment[], most = SAMPLES): Samples {
  const points: number[] = [];
  const level: number[] = [];
  for (const s of list) {
    if (s.value === undefined) continue;
    const [from, to] = [pointAt(grid, s.fromS), Math.min(grid.count, pointAt(grid, s.toS))];
    const n = Math.min(most, to - from);
    for (let i = 0; i < n; i++) {
      points.push(from + Math.floor(((to - from) * (i + 0.5)) / n));
      level.push(s.value);
    }
  }
  return { points: Int32Array.from(points), level: Float64Array.from(level) };
}

/** Fields of a stream that are tried first; the best are then made longer and shorter bit by bit. */
function* tried(bytes: number): Generator<{ startBit: number; length: number; littleEndian: boolean }> {
  for (const length of WIDTHS)
    for (const littleEndian of ORDERS)
      for (let startBit = 0; startBit < 8 * bytes; startBit++) {
        // Inside one byte both orders are the same bits.
        const bits = signalBits({ startBit, length, littleEndian });
        if (bits.every((b) => b < 8 * bytes) && (littleEndian || bits.some((b) => b >> 3 !== startBit >> 3)))
          yield { startBit, length, littleEndian };
      }
}

/** What one stream shows of a level: the fields that explain it best, and how well one would by chance. */
export interface Screened {
  fields: (LevelField & { explains: number })[];
  chance: number[];
}

/** Fields of a stream that are looked at more closely. */
const CLOSER = 24;

/** How well the fields of a stream explain each list of samples; the first list is the real one. */
export function screen(
  frames: Frames,
  { stream, rowAt, bits }: StreamBits,
  lists: readonly Samples[],
): Screened | null {
  if (bits.length < LEAST_BITS) return null;
  const changes = new Set(bits.map((b) => b.bit));
  const known = lists.map(({ points, level }) => {
    const use = [...points.keys()].filter((i) => (rowAt[points[i] as number] ?? -1) >= 0);
    return {
      at: Float64Array.from(use, (i) => frames.at[rowAt[points[i] as number] as number] as number),
      level: Float64Array.from(use, (i) => level[i] as number),
      values: new Float64Array(use.length),
    };
  });
  const [real, ...others] = known;
  if (!real || real.at.length < 6) return null;
  const fields: Screened["fields"] = [];
  const chance = others.map(() => 0);
  for (const t of tried(stream.bytes)) {
    const of = signalBits(t);
    if (!changes.has(of[0] as number) || of.filter((b) => changes.has(b)).length < LEAST_BITS) continue;
    if (of.some((b) => isProtection(stream.protections, b))) continue;
    const read = unsignedReader(t);
    known.forEach((k, which) => {
      if (which > 0 && t.length === 12) return;
      const half = 2 ** (t.length - 1);
      let large = false;
      for (let i = 0; i < k.at.length; i++) {
        const v = read(frames.data, k.at[i] as number);
        k.values[i] = v;
        large ||= v >= half;
      }
      for (const signed of large ? [false, true] : [false]) {
        if (signed)
          for (let i = 0; i < k.values.length; i++) {
            const v = k.values[i] as number;
            if (v >= half) k.values[i] = v - 2 * half;
          }
        const explains = explained(k.values, k.level);
        if (which > 0) chance[which - 1] = Math.max(chance[which - 1] as number, explains);
        else if (explains >= EXPLAINS) fields.push({ stream, ...t, signed, explains });
      }
    });
  }
  fields.sort((a, b) => b.explains - a.explains);
  return { fields: fields.slice(0, CLOSER), chance };
}

/**
 * The field among those of one stream that goes the shortest way through time: lower bits alone may stand at the right
 * values, too, but come round many times on the way between them.
 */
export function smoothest(
  frames: Frames,
  fields: Screened["fields"],
  rowAt: Int32Array,
  samples: Samples,
): LevelFinding | null {
  const [first] = fields;
  if (!first) return null;
  let best: LevelField = first;
  let way = Number.POSITIVE_INFINITY;
  for (const f of fields) {
    if (f.explains < first.explains - 0.03) continue;
    const now = quality(frames, f, rowAt, samples).way;
    if (now < 0.98 * way) {
      best = f;
      way = now;
    }
  }
  return refine(frames, best, rowAt, samples);
}
