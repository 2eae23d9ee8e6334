/** Keys and positions: bits and fields that stand at one value while something is the case. */
import type { Frames } from "../frames";
import { isProtection } from "../protection";
import type { Cue, Segment, Thing } from "./cues";
import { type Grid, pointAt, type Stream, type StreamBits } from "./streams";
import { add, type Strengths } from "./strengths";

/** Bits of a stream that follow cues, low bit first, neighbours of one byte. */
export interface Field {
  stream: Stream;
  startBit: number;
  length: number;
}

export interface StateFinding extends Field {
  /** Value of the field for each thing that was the case; rest included. */
  codes: Map<string, number>;
  /** Share of the time in which the field stood as it should, over the stretches of each label, 0 to 1. */
  agreement: number;
  /** Stretches that were missed, and rests in which it stood as if something was done. */
  misses: Segment[];
  falseAlarms: Segment[];
  /** Median time from the cue to the change, in seconds. */
  delayS: number;
  /** Greatest difference that one of its bits shows between a label and rest, 0 to 1. */
  strength: number;
}

/** A bit answers a label when it stands otherwise than at rest for so much of the time. */
const ANSWERS = 0.6;

/** What one round of looking needs: stretches by label, as points of the axis. */
export interface Round {
  labels: { label: string; at: [number, number][] }[];
  rest: [number, number][];
}

export function roundOf(grid: Grid, thing: Thing, list: readonly Segment[]): Round {
  const points = (s: Segment): [number, number] => {
    const from = Math.min(pointAt(grid, s.fromS), grid.count - 1);
    return [from, Math.max(from + 1, pointAt(grid, s.toS))];
  };
  const labels = [...new Set(list.filter((s) => s.label !== thing.rest).map((s) => s.label))];
  return {
    labels: labels.map((label) => ({ label, at: list.filter((s) => s.label === label).map(points) })),
    rest: list.filter((s) => s.label === thing.rest).map(points),
  };
}

/** What one stream shows of one thing. */
export interface StreamStates {
  findings: StateFinding[];
  /** Counters and checksums that seemed to follow the cues. */
  excluded: { field: Field; reason: string }[];
}

/**
 * Looks at all bits of a stream: which stand otherwise while something was done, and which neighbours together tell what it
 * was. Adds to `strengths` what was found and what cues at random times would have found.
 */
export function statesOf(
  frames: Frames,
  { stream, rowAt, begin, bits }: StreamBits,
  grid: Grid,
  thing: Thing,
  list: readonly Segment[],
  cues: readonly Cue[],
  chances: readonly Round[],
  strengths: Strengths,
): StreamStates {
  const real = roundOf(grid, thing, list);
  const answering: { bit: number; means: Map<string, number>; rest: number; strength: number }[] = [];
  const excluded: StreamStates["excluded"] = [];
  for (const { bit, sums } of bits) {
    const share = mean(sums, begin);
    const { means, rest, strength } = strengthOf(real, share);
    if (isProtection(stream.protections, bit)) {
      if (strength >= ANSWERS)
        excluded.push({ field: { stream, startBit: bit, length: 1 }, reason: "part of a counter or checksum" });
      continue;
    }
    add(strengths.found, strength);
    for (const round of chances) add(strengths.chance, strengthOf(round, share).strength);
    if (strength >= ANSWERS) answering.push({ bit, means, rest, strength });
  }
  return {
    findings: runs(answering.map((a) => a.bit)).map((bits) =>
      fieldFinding(frames, stream, grid, rowAt, thing, list, cues, bits, answering),
    ),
    excluded,
  };
}

type Share = (from: number, to: number) => number;

/** Share of ones between two points; what is before the first frame is not counted. */
function mean(sums: Uint32Array, begin: number): Share {
  return (from, to) => {
    const a = Math.max(from, begin);
    return to <= a ? Number.NaN : ((sums[to] as number) - (sums[a] as number)) / (to - a);
  };
}

function strengthOf(
  { labels, rest }: Round,
  share: Share,
): { means: Map<string, number>; rest: number; strength: number } {
  const atRest = average(rest, share);
  const means = new Map(labels.map(({ label, at }) => [label, average(at, share)]));
  let strength = 0;
  for (const m of means.values()) if (!Number.isNaN(m - atRest)) strength = Math.max(strength, Math.abs(m - atRest));
  return { means, rest: atRest, strength };
}

function average(list: readonly [number, number][], share: Share): number {
  let sum = 0;
  let n = 0;
  for (const [from, to] of list) {
    const s = share(from, to);
    if (Number.isNaN(s)) continue;
    sum += s;
    n++;
  }
  return n === 0 ? Number.NaN : sum / n;
}

/** Neighbouring bits of one byte, as runs. */
function runs(bits: readonly number[]): number[][] {
  const found: number[][] = [];
  for (const bit of bits) {
    const last = found.at(-1);
    if (last && last.at(-1) === bit - 1 && bit % 8 !== 0) last.push(bit);
    else found.push([bit]);
  }
  return found;
}

function fieldFinding(
  frames: Frames,
  stream: Stream,
  grid: Grid,
  rowAt: Int32Array,
  thing: Thing,
  list: readonly Segment[],
  cues: readonly Cue[],
  bits: readonly number[],
  answering: readonly { bit: number; means: Map<string, number>; rest: number; strength: number }[],
): StateFinding {
  const startBit = bits[0] as number;
  const length = bits.length;
  const of = answering.filter((a) => bits.includes(a.bit));
  const code = (share: (a: (typeof of)[number]) => number) =>
    of.reduce((value, a) => value + (share(a) > 0.5 ? 2 ** (a.bit - startBit) : 0), 0);
  const labels = [...(of[0]?.means.keys() ?? [])];
  const codes = new Map([
    [thing.rest, code((a) => a.rest)],
    ...labels.map((l) => [l, code((a) => a.means.get(l) ?? 0)] as const),
  ]);
  const read = (p: number) => {
    const row = rowAt[p] as number;
    return row < 0
      ? -1
      : ((frames.data[(frames.at[row] as number) + (startBit >> 3)] as number) >> (startBit & 7)) & (2 ** length - 1);
  };
  const misses: Segment[] = [];
  const falseAlarms: Segment[] = [];
  const shares = new Map<string, number[]>();
  for (const s of list) {
    const share = shareAt(read, codes.get(s.label) ?? -1, pointAt(grid, s.fromS), pointAt(grid, s.toS));
    if (Number.isNaN(share)) continue;
    shares.set(s.label, [...(shares.get(s.label) ?? []), share]);
    if (share >= 0.5) continue;
    if (s.cued) misses.push(s);
    else falseAlarms.push(s);
  }
  const means = [...shares.values()].map((l) => l.reduce((a, b) => a + b, 0) / l.length);
  return {
    stream,
    startBit,
    length,
    codes,
    agreement: means.length === 0 ? 0 : means.reduce((a, b) => a + b, 0) / means.length,
    misses,
    falseAlarms,
    delayS: median(delays(grid, read, codes, cues, thing)),
    strength: Math.max(...of.map((a) => a.strength)),
  };
}

function shareAt(read: (p: number) => number, value: number, from: number, to: number): number {
  let [n, same] = [0, 0];
  for (let p = from; p < to; p++) {
    const now = read(p);
    if (now < 0) continue;
    n++;
    if (now === value) same++;
  }
  return n === 0 ? Number.NaN : same / n;
}

/** From the beginning of each cue to the point at which the field takes its value; looked for within a second and a half. */
function delays(
  grid: Grid,
  read: (p: number) => number,
  codes: ReadonlyMap<string, number>,
  cues: readonly Cue[],
  thing: Thing,
): number[] {
  const reach = Math.round(1.5 / grid.stepS);
  return cues.flatMap((c) => {
    const value = codes.get(c.label);
    if (c.thing !== thing.id || value === undefined || value === codes.get(thing.rest)) return [];
    const at = pointAt(grid, c.fromS);
    for (let p = Math.max(1, at - reach); p < Math.min(grid.count, at + reach); p++)
      if (read(p) === value && read(p - 1) !== value) return [(p - at) * grid.stepS];
    return [];
  });
}

export function median(values: readonly number[]): number {
  if (values.length === 0) return Number.NaN;
  const sorted = [...values].sort((a, b) => a - b);
  return ((sorted[(sorted.length - 1) >> 1] as number) + (sorted[sorted.length >> 1] as number)) / 2;
}
