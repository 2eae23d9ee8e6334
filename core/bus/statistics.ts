import { type Frames, idKey } from "./frames";

/** What one identifier does in a log. Times in milliseconds. */
export interface IdStatistics {
  /** Bus on which it was heard. */
  channel: string;
  id: number;
  extended: boolean;
  count: number;
  /** Median of the gaps; NaN with fewer than two frames. */
  cycleMs: number;
  /** Largest distance of a gap from the median. */
  jitterMs: number;
  firstS: number;
  lastS: number;
  length: number;
  /** Bits that changed at least once, as 8 byte masks. */
  changed: Uint8Array;
}

/** Counts, cycle time, jitter and changing bits of every identifier, each bus for itself, by bus and identifier. */
export function statistics(frames: Frames): IdStatistics[] {
  const rows = new Map<number, number[]>();
  for (let i = 0; i < frames.count; i++) {
    const key = idKey(frames.id[i] as number, frames.extended[i] === 1) + (frames.channel[i] as number) * 2 ** 32;
    const list = rows.get(key);
    if (list) list.push(i);
    else rows.set(key, [i]);
  }
  return [...rows.values()]
    .map((list) => ofOne(frames, list))
    .sort(
      (a, b) =>
        frames.channels.indexOf(a.channel) - frames.channels.indexOf(b.channel) ||
        Number(a.extended) - Number(b.extended) ||
        a.id - b.id,
    );
}

function ofOne(frames: Frames, rows: readonly number[]): IdStatistics {
  const first = rows[0] as number;
  const gaps = new Float64Array(rows.length - 1);
  const changed = new Uint8Array(8);
  for (let i = 1; i < rows.length; i++) {
    const [before, now] = [rows[i - 1] as number, rows[i] as number];
    gaps[i - 1] = 1000 * ((frames.timeS[now] as number) - (frames.timeS[before] as number));
    for (let b = 0; b < 8; b++)
      changed[b] =
        (changed[b] as number) | ((frames.data[8 * before + b] as number) ^ (frames.data[8 * now + b] as number));
  }
  gaps.sort();
  const half = gaps.length >> 1;
  const median =
    gaps.length === 0
      ? Number.NaN
      : gaps.length % 2
        ? (gaps[half] as number)
        : ((gaps[half - 1] as number) + (gaps[half] as number)) / 2;
  return {
    channel: frames.channels[frames.channel[first] as number] ?? "",
    id: frames.id[first] as number,
    extended: frames.extended[first] === 1,
    count: rows.length,
    cycleMs: median,
    jitterMs:
      gaps.length === 0
        ? Number.NaN
        : Math.max(median - (gaps[0] as number), (gaps[gaps.length - 1] as number) - median),
    firstS: frames.timeS[first] as number,
    lastS: frames.timeS[rows[rows.length - 1] as number] as number,
    length: frames.length[first] as number,
    changed,
  };
}

/**
 * Worst-case length of a CAN frame in bits, with stuffing and interframe space: 55+10s for 11-bit, 80+10s for 29-bit
 * identifiers, s data bytes. Source: Davis, Burns, Bril, Lukkien, Real-Time Systems 35 (2007).
 */
export function worstFrameBits(dataBytes: number, extended: boolean): number {
  return (extended ? 80 : 55) + 10 * dataBytes;
}

/**
 * Upper bound of the share of its time that each bus of a log uses at a bit rate, 0 to 1. All buses were recorded over the
 * time of the log.
 */
export function busLoads(frames: Frames, bitsPerS: number): { channel: string; load: number }[] {
  const bits = new Float64Array(frames.channels.length);
  for (let i = 0; i < frames.count; i++) {
    const channel = frames.channel[i] as number;
    bits[channel] = (bits[channel] as number) + worstFrameBits(frames.length[i] as number, frames.extended[i] === 1);
  }
  const spanS = frames.count < 2 ? 0 : (frames.timeS[frames.count - 1] as number) - (frames.timeS[0] as number);
  return frames.channels.map((channel, i) => ({
    channel,
    load: spanS > 0 ? (bits[i] as number) / bitsPerS / spanS : 0,
  }));
}
