/** Levels: fields whose value follows a number that was held, such as an angle or a speed. */
import { type BitReader, unsignedReader } from "../bits";
import { signalBits } from "../dbc";
import type { Frames } from "../frames";
import { isProtection } from "../protection";
import type { Segment } from "./cues";
import { type Grid, pointAt, type Stream, type StreamBits } from "./streams";

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
const EXPLAINS = 0.9;
/** Values looked at in each stretch. */
const SAMPLES = 8;
const WIDTHS = [8, 12, 16] as const;
/** A level moves at least so many bits. */
const LEAST_BITS = 4;
const ORDERS = [true, false] as const;

export interface Samples {
  points: Int32Array;
  level: Float64Array;
}

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

/** R squared of a straight line through level and value; values above half may be negative ones. */
function explained(values: Float64Array, level: Float64Array): number {
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

/** Finds the ends of a field: bit by bit longer and shorter, as its way through time stays smooth. */
function refine(frames: Frames, field: LevelField, rowAt: Int32Array, samples: Samples): LevelFinding {
  const bounded = (f: LevelField) =>
    f.length >= 2 &&
    f.length <= 32 &&
    signalBits(f).every((b) => b >= 0 && b < 8 * field.stream.bytes && !isProtection(field.stream.protections, b));
  const judge = (f: LevelField) => quality(frames, f, rowAt, samples);
  let best = field;
  let q = judge(best);
  const better = (next: LevelField, rule: (now: Quality) => boolean) => {
    if (!bounded(next)) return false;
    const now = judge(next);
    if (!rule(now)) return false;
    best = next;
    q = now;
    return true;
  };
  // What never moves at the top says nothing; bits that belong to something else make it jump; so does reading a sign as a large number.
  while (
    better(
      withTop(best, -1),
      (now) => now.explains > q.explains + 1e-4 || (now.explains > q.explains - 1e-5 && now.way < 0.97 * q.way),
    )
  );
  better(
    { ...best, signed: !best.signed },
    (now) => now.explains > q.explains + 1e-4 || (now.explains > q.explains - 1e-5 && now.way < 0.97 * q.way),
  );
  // Noise at the bottom makes the way longer.
  while (better(withBottom(best, -1), (now) => now.explains > q.explains - 1e-4 && now.way < 0.97 * q.way));
  // Finer bits at the bottom keep the way as long as it is and fit at least as well.
  while (better(withBottom(best, 1), (now) => now.moves && now.explains > q.explains - 1e-5 && now.way < 1.02 * q.way));
  while (better(withTop(best, 1), (now) => now.topMoves && now.explains > q.explains + 1e-6 && now.way < 1.02 * q.way));
  // A sign that was cut off together with the bits above it.
  const still = stillTop(frames, best, rowAt);
  const whole = { ...withTop(best, still) };
  const end = bounded(whole) ? whole : best;
  return { ...end, ...lineOf(frames, end, rowAt, samples), explains: q.explains, still: end === whole ? still : 0 };
}

/** The field with its most significant end moved by so many bits. */
function withTop(f: LevelField, bits: number): LevelField {
  if (f.littleEndian) return { ...f, length: f.length + bits };
  let startBit = f.startBit;
  for (let i = 0; i < Math.abs(bits); i++)
    startBit =
      bits > 0
        ? startBit % 8 === 7
          ? startBit - 15
          : startBit + 1
        : startBit % 8 === 0
          ? startBit + 15
          : startBit - 1;
  return { ...f, startBit, length: f.length + bits };
}

/** The field with its least significant end moved by so many bits. */
function withBottom(f: LevelField, bits: number): LevelField {
  return f.littleEndian
    ? { ...f, startBit: f.startBit - bits, length: f.length + bits }
    : { ...f, length: f.length + bits };
}

interface Quality {
  explains: number;
  /** Length of the way through all values, in ranges. */
  way: number;
  /** Its lowest bit changes; its highest one does. */
  moves: boolean;
  topMoves: boolean;
}

function quality(frames: Frames, f: LevelField, rowAt: Int32Array, { points, level }: Samples): Quality {
  const read = signedReader(f);
  let [least, greatest, way] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0];
  let before: number | null = null;
  let rowBefore = -1;
  let [lows, tops] = [0, 0];
  for (const row of rowAt) {
    if (row < 0 || row === rowBefore) continue;
    rowBefore = row;
    const v = read(frames.data, frames.at[row] as number);
    least = Math.min(least, v);
    greatest = Math.max(greatest, v);
    if (before !== null) way += Math.abs(v - before);
    before = v;
    const raw = v < 0 ? v + 2 ** f.length : v;
    lows |= raw & 1 ? 2 : 1;
    tops |= raw >= 2 ** (f.length - 1) ? 2 : 1;
  }
  const use = [...points.keys()].filter((i) => (rowAt[points[i] as number] ?? -1) >= 0);
  const values = Float64Array.from(use, (i) =>
    read(frames.data, frames.at[rowAt[points[i] as number] as number] as number),
  );
  return {
    explains: explained(
      values,
      Float64Array.from(use, (i) => level[i] as number),
    ),
    way: greatest > least ? way / (greatest - least) : Number.POSITIVE_INFINITY,
    moves: lows === 3,
    topMoves: tops === 3,
  };
}

function signedReader(f: LevelField): BitReader {
  const read = unsignedReader(f);
  const half = f.signed ? 2 ** (f.length - 1) : Number.POSITIVE_INFINITY;
  return (data, base) => {
    const v = read(data, base);
    return v >= half ? v - 2 * half : v;
  };
}

/** Bits above the field, up to the end of its byte, that never change and go on with its sign: they are taken to belong to it. */
function stillTop(frames: Frames, f: LevelField, rowAt: Int32Array): number {
  let n = 0;
  while (true) {
    const longer = withTop(f, n + 1);
    const top = f.littleEndian ? longer.startBit + longer.length - 1 : longer.startBit;
    if (
      top < 0 ||
      top >= 8 * f.stream.bytes ||
      top >> 3 !== (f.littleEndian ? f.startBit + f.length - 1 : f.startBit) >> 3
    )
      return n;
    if (isProtection(f.stream.protections, top)) return n;
    for (const row of rowAt) {
      if (row < 0) continue;
      const bit = ((frames.data[(frames.at[row] as number) + (top >> 3)] as number) >> (top & 7)) & 1;
      const sign = f.signed && signedReader(f)(frames.data, frames.at[row] as number) < 0 ? 1 : 0;
      if (bit !== sign) return n;
    }
    n++;
  }
}

/** Factors as they are usual, from coarse to fine: 1, 2, 5 times a power of ten, and halves. */
const USUAL_FACTORS = [
  ...[-4, -3, -2, -1, 0, 1].flatMap((e) => [1, 2, 5, 2.5].map((m) => m * 10 ** e)),
  ...[1, 2, 3, 4, 5, 6, 7, 8].map((k) => 2 ** -k),
];

/** Straight line from value to level. A factor that is nearly a usual one is taken to be that one. */
function lineOf(
  frames: Frames,
  f: LevelField,
  rowAt: Int32Array,
  { points, level }: Samples,
): { factor: number; offset: number; worst: number } {
  const read = signedReader(f);
  const use = [...points.keys()].filter((i) => (rowAt[points[i] as number] ?? -1) >= 0);
  const x = use.map((i) => read(frames.data, frames.at[rowAt[points[i] as number] as number] as number));
  const y = use.map((i) => level[i] as number);
  const n = x.length;
  const mx = x.reduce((a, b) => a + b, 0) / n;
  const my = y.reduce((a, b) => a + b, 0) / n;
  const vx = x.reduce((s, v) => s + (v - mx) ** 2, 0);
  const plain = vx > 0 ? x.reduce((s, v, i) => s + (v - mx) * ((y[i] as number) - my), 0) / vx : 0;
  const size = Math.abs(plain);
  const usual = USUAL_FACTORS.find((u) => Math.abs(u - size) < 0.03 * size);
  const factor = Number((usual === undefined ? plain : Math.sign(plain) * usual).toPrecision(4));
  const rest = my - factor * mx;
  // An offset that is small against the levels is taken to be none.
  const range = Math.max(...y) - Math.min(...y);
  const offset = Math.abs(rest) < 0.03 * range ? 0 : Number(rest.toPrecision(4));
  const worst = x.reduce((w, v, i) => Math.max(w, Math.abs(factor * v + offset - (y[i] as number))), 0);
  return { factor, offset, worst };
}
