/** A field that follows a level, made as wide as it is, with sign, factor and offset. */
import { type BitReader, unsignedReader } from "../bits";
import { signalBits } from "../dbc-messages";
import type { Frames } from "../frames";
import { isProtection } from "../protection";
import { explained, type LevelField, type LevelFinding, type Samples } from "./level-finding";

/** Finds the ends of a field: bit by bit longer and shorter, as its way through time stays smooth. */
export function refine(frames: Frames, field: LevelField, rowAt: Int32Array, samples: Samples): LevelFinding {
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

export function quality(frames: Frames, f: LevelField, rowAt: Int32Array, { points, level }: Samples): Quality {
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
