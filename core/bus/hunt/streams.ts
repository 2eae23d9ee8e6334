/** Messages, and the pages of multiplexed ones, as values on a common time axis. */
import { type IdRows, rowsById } from "../by-id";
import type { Frames } from "../frames";
import { isProtection, type Protection, protections } from "../protection";

/** The field that says which page a frame shows. */
export interface Selector {
  startBit: number;
  length: number;
}

/** A message, or one page of it. */
export interface Stream {
  channel: string;
  id: number;
  extended: boolean;
  page: { selector: Selector; value: number } | null;
  rows: Uint32Array;
  bytes: number;
  protections: readonly Protection[];
}

/** Every message of a log, multiplexed ones by page. Messages with fewer frames show nothing. */
export function streamsOf(frames: Frames, groups: readonly IdRows[] = rowsById(frames)): Stream[] {
  return groups.flatMap((g): Stream[] => {
    if (g.rows.length < 4) return [];
    const shields = protections(frames, g);
    let bytes = 64;
    for (const row of g.rows) bytes = Math.min(bytes, frames.length[row] as number);
    const base = { channel: g.channel, id: g.id, extended: g.extended, bytes, protections: shields };
    const selector = selectorOf(frames, g.rows, bytes, shields);
    // A short counter may be a selector whose pages hardly ever differ: then both ways are looked at.
    const short = shields.find((p) => p.kind === "counter" && p.top < 8);
    const by = selector ?? (short?.kind === "counter" ? { startBit: short.startBit, length: short.length } : null);
    const whole = selector ? [] : [{ ...base, page: null, rows: g.rows }];
    if (!by) return whole;
    const pages = new Map<number, number[]>();
    for (const row of g.rows) {
      const value = fieldAt(frames, row, by);
      const list = pages.get(value);
      if (list) list.push(row);
      else pages.set(value, [row]);
    }
    const paged = [...pages]
      .filter(([, rows]) => rows.length >= 4)
      .map(([value, rows]) => ({ ...base, page: { selector: by, value }, rows: Uint32Array.from(rows) }));
    return [...whole, ...paged];
  });
}

function fieldAt(frames: Frames, row: number, { startBit, length }: Selector): number {
  return ((frames.data[(frames.at[row] as number) + (startBit >> 3)] as number) >> (startBit & 7)) & (2 ** length - 1);
}

/** Frames that are looked at for a selector: so many stretches of so many. */
const STRETCHES = 16;
const STRETCH = 64;

/**
 * The field that chooses between pages: it changes with nearly every frame among few values, and bits of the message that
 * change all the time stand still from one frame of a value to the next of the same. Null when there is none.
 */
function selectorOf(frames: Frames, all: Uint32Array, bytes: number, shields: readonly Protection[]): Selector | null {
  const rows = stretches(all);
  if (rows.length < 24 || bytes < 2) return null;
  const places: Selector[] = [
    { startBit: 0, length: 8 },
    { startBit: 0, length: 4 },
    { startBit: 4, length: 4 },
    { startBit: 0, length: 2 },
    { startBit: 0, length: 3 },
    { startBit: 8, length: 8 },
  ];
  let best: { selector: Selector; calmed: number } | null = null;
  for (const selector of places) {
    const calmed = calmedBits(frames, rows, bytes, selector, shields);
    // Of two that do as much the first counts: a whole byte before a part of it.
    if (calmed >= 1 && (!best || calmed > 1.2 * best.calmed)) best = { selector, calmed };
  }
  return best?.selector ?? null;
}

/** Stretches of frames from all over a message. */
function stretches(all: Uint32Array): Uint32Array {
  if (all.length <= STRETCHES * STRETCH) return all;
  const rows = new Uint32Array(STRETCHES * STRETCH);
  for (let k = 0; k < STRETCHES; k++) {
    const from = Math.floor(((all.length - STRETCH) * k) / (STRETCHES - 1));
    rows.set(all.subarray(from, from + STRETCH), k * STRETCH);
  }
  return rows;
}

/** How many bits change often, and hardly ever against the last frame with the same value of the selector. */
function calmedBits(
  frames: Frames,
  rows: Uint32Array,
  bytes: number,
  selector: Selector,
  shields: readonly Protection[],
): number {
  const lastOf = new Map<number, number>();
  const plain = new Uint32Array(8 * bytes);
  const same = new Uint32Array(8 * bytes);
  let changes = 0;
  let compared = 0;
  const count = (a: number, b: number, flips: Uint32Array) => {
    for (let i = 0; i < bytes; i++) {
      let x =
        (frames.data[(frames.at[a] as number) + i] as number) ^ (frames.data[(frames.at[b] as number) + i] as number);
      for (let bit = 8 * i; x !== 0; bit++, x >>= 1) if (x & 1) flips[bit] = (flips[bit] as number) + 1;
    }
  };
  let before: number | null = null;
  for (const row of rows) {
    const value = fieldAt(frames, row, selector);
    const last = lastOf.get(value);
    if (before !== null && fieldAt(frames, before, selector) !== value) changes++;
    // Only frames of a value that was there before are compared, so that both counts are over the same ones.
    if (before !== null && last !== undefined) {
      compared++;
      count(before, row, plain);
      count(last, row, same);
    }
    lastOf.set(value, row);
    before = row;
  }
  if (lastOf.size < 2 || lastOf.size > 32 || lastOf.size > rows.length / 6 || changes < 0.6 * rows.length) return 0;
  let calmed = 0;
  for (let bit = 0; bit < 8 * bytes; bit++) {
    if (bit >= selector.startBit && bit < selector.startBit + selector.length) continue;
    if (isProtection(shields, bit)) continue;
    const often = (plain[bit] as number) >= Math.max(12, 0.02 * compared) && (plain[bit] as number) < 0.9 * compared;
    if (often && (same[bit] as number) <= 0.15 * (plain[bit] as number)) calmed++;
  }
  return calmed;
}

/** A common time axis for all messages. */
export interface Grid {
  startS: number;
  stepS: number;
  count: number;
}

/** Most points of the axis, and their least distance. */
const MOST_POINTS = 24_000;
const LEAST_STEP_S = 0.01;

export function gridOf(frames: Frames): Grid {
  let startS = Number.POSITIVE_INFINITY;
  let endS = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < frames.count; i++) {
    startS = Math.min(startS, frames.timeS[i] as number);
    endS = Math.max(endS, frames.timeS[i] as number);
  }
  if (frames.count === 0) return { startS: 0, stepS: LEAST_STEP_S, count: 0 };
  const stepS = Math.max(LEAST_STEP_S, (endS - startS) / MOST_POINTS);
  return { startS, stepS, count: Math.floor((endS - startS) / stepS) + 1 };
}

/** Point of the axis at a time, kept inside it. */
export function pointAt({ startS, stepS, count }: Grid, timeS: number): number {
  return Math.min(count, Math.max(0, Math.round((timeS - startS) / stepS)));
}

/** The row of a message that holds at each point of the axis: the last one before; -1 before the first. */
function held(frames: Frames, rows: Uint32Array, grid: Grid): Int32Array {
  const at = new Int32Array(grid.count).fill(-1);
  let next = 0;
  for (let p = 0; p < grid.count; p++) {
    const timeS = grid.startS + p * grid.stepS;
    while (next < rows.length && (frames.timeS[rows[next] as number] as number) <= timeS) next++;
    if (next > 0) at[p] = rows[next - 1] as number;
  }
  return at;
}

/** Bits of a stream that change, in rising order. Bit b of byte n is 8·n + b. */
export function changingBits(frames: Frames, { rows, bytes }: Pick<Stream, "rows" | "bytes">): number[] {
  const changed = new Uint8Array(bytes);
  const first = frames.at[rows[0] as number] as number;
  for (const row of rows) {
    const at = frames.at[row] as number;
    for (let b = 0; b < bytes; b++)
      changed[b] = (changed[b] as number) | ((frames.data[first + b] as number) ^ (frames.data[at + b] as number));
  }
  return Array.from({ length: 8 * bytes }, (_, bit) => bit).filter(
    (bit) => ((changed[bit >> 3] as number) >> (bit & 7)) & 1,
  );
}

/** The bits of a stream on the axis, ready to be asked for any stretch of it. */
export interface StreamBits {
  stream: Stream;
  /** Row that holds at each point. */
  rowAt: Int32Array;
  /** First point with a row. */
  begin: number;
  bits: { bit: number /** Ones before each point. */; sums: Uint32Array }[];
}

/** Null for a stream without a frame on the axis. */
export function bitsOf(frames: Frames, stream: Stream, grid: Grid): StreamBits | null {
  const rowAt = held(frames, stream.rows, grid);
  const begin = rowAt.findIndex((r) => r >= 0);
  if (begin < 0) return null;
  const bits = changingBits(frames, stream).map((bit) => {
    const sums = new Uint32Array(grid.count + 1);
    let sum = 0;
    for (let p = begin; p < grid.count; p++) {
      sum += ((frames.data[(frames.at[rowAt[p] as number] as number) + (bit >> 3)] as number) >> (bit & 7)) & 1;
      sums[p + 1] = sum;
    }
    return { bit, sums };
  });
  return { stream, rowAt, begin, bits };
}
