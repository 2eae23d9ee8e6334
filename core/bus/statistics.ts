import { type IdRows, rowsById } from "./by-id";
import { ERROR, FD, type Frames, REMOTE } from "./frames";
import { frameBits, type WireBits, worstFrameBits } from "./wire";

/** What one identifier does in a log. Times in milliseconds where the name says so. */
export interface IdStatistics {
  channel: string;
  id: number;
  extended: boolean;
  count: number;
  /** Median of the gaps; NaN with fewer than two frames. */
  cycleMs: number;
  /** Largest distance of a gap from the median. */
  jitterMs: number;
  longestGapMs: number;
  /** Nine of ten gaps lie within a quarter of the median. */
  steady: boolean;
  /** Gaps of a steady message that are more than half a cycle too long. */
  late: number;
  firstS: number;
  lastS: number;
  /** Row of its last frame. */
  lastRow: number;
  /** Lengths that occur, in bytes, rising. */
  lengths: number[];
  /** How often each bit changed from one frame to the next; bit b of byte n at 8·n + b. */
  flips: Uint32Array;
}

/** Within so much of the median a gap counts as in time. */
const STEADY = 0.25;

/** Counts, cycle time, jitter and changing bits of every identifier, each bus for itself, by bus and identifier. */
export function statistics(frames: Frames, groups: readonly IdRows[] = rowsById(frames)): IdStatistics[] {
  return groups.map((g) => ofOne(frames, g));
}

function ofOne(frames: Frames, { channel, id, extended, rows }: IdRows): IdStatistics {
  const gaps = new Float64Array(rows.length - 1);
  const lengths = new Set<number>([frames.length[rows[0] as number] as number]);
  for (let i = 1; i < rows.length; i++) {
    const [before, now] = [rows[i - 1] as number, rows[i] as number];
    gaps[i - 1] = 1000 * ((frames.timeS[now] as number) - (frames.timeS[before] as number));
    lengths.add(frames.length[now] as number);
  }
  gaps.sort();
  const n = gaps.length;
  const median = n === 0 ? Number.NaN : ((gaps[(n - 1) >> 1] as number) + (gaps[n >> 1] as number)) / 2;
  const steady = n >= 4 && within(gaps, median * (1 - STEADY), median * (1 + STEADY)) >= 0.9 * n;
  return {
    channel,
    id,
    extended,
    count: rows.length,
    cycleMs: median,
    jitterMs: n === 0 ? Number.NaN : Math.max(median - (gaps[0] as number), (gaps[n - 1] as number) - median),
    longestGapMs: n === 0 ? Number.NaN : (gaps[n - 1] as number),
    steady,
    late: steady ? n - within(gaps, Number.NEGATIVE_INFINITY, 1.5 * median) : 0,
    firstS: frames.timeS[rows[0] as number] as number,
    lastS: frames.timeS[rows[rows.length - 1] as number] as number,
    lastRow: rows[rows.length - 1] as number,
    lengths: [...lengths].sort((a, b) => a - b),
    flips: flipsOf(frames, rows, Math.max(...lengths)),
  };
}

/** How many of the sorted values lie between two bounds. */
function within(sorted: Float64Array, from: number, to: number): number {
  let n = 0;
  for (const v of sorted) if (v >= from && v <= to) n++;
  return n;
}

function flipsOf(frames: Frames, rows: Uint32Array, bytes: number): Uint32Array {
  const flips = new Uint32Array(8 * bytes);
  const { data, at, length } = frames;
  for (let i = 1; i < rows.length; i++) {
    const [a, b] = [rows[i - 1] as number, rows[i] as number];
    const both = Math.min(length[a] as number, length[b] as number);
    const [from, to] = [at[a] as number, at[b] as number];
    for (let byte = 0; byte < both; byte++) {
      let changed = (data[from + byte] as number) ^ (data[to + byte] as number);
      for (let bit = 8 * byte; changed !== 0; bit++, changed >>= 1)
        if (changed & 1) flips[bit] = (flips[bit] as number) + 1;
    }
  }
  return flips;
}

/** How busy one bus was. */
export interface BusLoad {
  channel: string;
  /** Share of the time of the log in which the bus carried frames, 0 to 1, with the stuff bits that these data need. */
  load: number;
  /** The same if each frame had as many stuff bits as a frame of its length can have. */
  worst: number;
  /** The busiest second. */
  peak: number;
  /** Requests for messages and error frames heard on it. */
  requests: number;
  errors: number;
  /** FD frames; their data part is taken to be sent at `dataBitsPerS`. */
  long: number;
}

/**
 * Load of each bus of a log at a bit rate. All buses were recorded over the time of the log.
 *
 * @param dataBitsPerS rate of the data part of FD frames that switch to a faster one
 */
export function busLoads(frames: Frames, bitsPerS: number, dataBitsPerS = 4 * bitsPerS): BusLoad[] {
  const startS = frames.timeS[0] ?? 0;
  const spanS = frames.count < 2 ? 0 : Math.max(0, (frames.timeS[frames.count - 1] as number) - startS);
  const buses = frames.channels.map(() => ({
    busyS: 0,
    worstS: 0,
    requests: 0,
    errors: 0,
    long: 0,
    second: -1,
    inSecondS: 0,
    peakS: 0,
  }));
  for (let i = 0; i < frames.count; i++) {
    const bus = buses[frames.channel[i] as number];
    if (!bus) continue;
    const flags = frames.flags[i] as number;
    if (flags & ERROR) {
      bus.errors++;
      continue;
    }
    if (flags & REMOTE) bus.requests++;
    if (flags & FD) bus.long++;
    const tookS = seconds(frameBits(frames, i), bitsPerS, dataBitsPerS);
    bus.busyS += tookS;
    bus.worstS +=
      flags & FD
        ? tookS
        : worstFrameBits(flags & REMOTE ? 0 : (frames.length[i] as number), (flags & 1) === 1) / bitsPerS;
    const second = Math.floor((frames.timeS[i] as number) - startS);
    if (second !== bus.second) {
      bus.second = second;
      bus.inSecondS = 0;
    }
    bus.inSecondS += tookS;
    bus.peakS = Math.max(bus.peakS, bus.inSecondS);
  }
  return buses.map((bus, i) => ({
    channel: frames.channels[i] ?? "",
    load: spanS > 0 ? bus.busyS / spanS : 0,
    worst: spanS > 0 ? bus.worstS / spanS : 0,
    peak: bus.peakS,
    requests: bus.requests,
    errors: bus.errors,
    long: bus.long,
  }));
}

function seconds({ bits, fastBits }: WireBits, bitsPerS: number, dataBitsPerS: number): number {
  return bits / bitsPerS + fastBits / dataBitsPerS;
}

/** A stretch in which error frames follow each other closely. */
export interface ErrorBurst {
  channel: string;
  fromS: number;
  toS: number;
  count: number;
}

/** Error frames that follow each other within a second, as stretches. */
export function errorBursts(frames: Frames): ErrorBurst[] {
  const bursts: ErrorBurst[] = [];
  const open = new Map<number, ErrorBurst>();
  for (let i = 0; i < frames.count; i++) {
    if (!((frames.flags[i] as number) & ERROR)) continue;
    const bus = frames.channel[i] as number;
    const atS = frames.timeS[i] as number;
    const last = open.get(bus);
    if (last && atS - last.toS <= 1) {
      last.toS = atS;
      last.count++;
    } else {
      const burst = { channel: frames.channels[bus] ?? "", fromS: atS, toS: atS, count: 1 };
      open.set(bus, burst);
      bursts.push(burst);
    }
  }
  return bursts;
}

/** A frame whose time lies before the one written before it. */
export interface ClockJump {
  row: number;
  /** Negative: so far the clock went back. */
  byS: number;
}

/** Where the clock of a log jumps: back, or ahead by more than `aheadS`. */
export function clockJumps(frames: Frames, aheadS = 60): ClockJump[] {
  const jumps: ClockJump[] = [];
  for (let i = 1; i < frames.count; i++) {
    const byS = (frames.timeS[i] as number) - (frames.timeS[i - 1] as number);
    if (byS < -0.001 || byS > aheadS) jumps.push({ row: i, byS });
  }
  return jumps;
}

/** What is odd about an identifier. */
export type Oddity =
  | { kind: "stopped"; atS: number }
  | { kind: "began"; atS: number }
  | { kind: "babbling"; perS: number }
  | { kind: "late"; count: number; longestMs: number }
  | { kind: "lengths"; lengths: number[] };

/** More frames a second of one identifier than any usual message has. No source: a thousand is every millisecond. */
const BABBLING_PER_S = 400;

/** What is odd about the identifiers of a log: silent before its end, too many, late, of changing length. */
export function oddities(one: IdStatistics, span: { startS: number; endS: number }): Oddity[] {
  const found: Oddity[] = [];
  const patienceS = Math.max(1, (5 * one.cycleMs) / 1000 || 1);
  if (one.count > 2 && span.endS - one.lastS > patienceS) found.push({ kind: "stopped", atS: one.lastS });
  if (one.count > 2 && one.firstS - span.startS > patienceS) found.push({ kind: "began", atS: one.firstS });
  const perS = one.count / Math.max(1e-9, one.lastS - one.firstS);
  if (one.count > 100 && perS > BABBLING_PER_S) found.push({ kind: "babbling", perS });
  if (one.late > 0) found.push({ kind: "late", count: one.late, longestMs: one.longestGapMs });
  if (one.lengths.length > 1) found.push({ kind: "lengths", lengths: one.lengths });
  return found;
}
