/** Brings the clock of the cues onto that of the log. */
import type { Frames } from "../frames";
import { isProtection } from "../protection";
import type { Clock, Cue } from "./cues";
import { changingBits, type Stream } from "./streams";

export interface Alignment extends Clock {
  /** 0 (no place fits better than another) to 1 (only this one fits). */
  sure: number;
}

/** Shifts that are tried, to either side. */
const MOST_SHIFT_S = 2.5;
/** Drifts that are tried: half a percent is far more than a watch has. */
const MOST_DRIFT = 0.005;
/** How far from its cue a person acts. */
const SPREAD_S = 0.25;

interface Edges {
  label: string;
  times: number[];
}

/** Times at which one bit changes. */
type Flips = Float64Array;

/**
 * Finds shift and drift at which the changes of single bits lie on the beginnings and ends of the cues. Of each kind of cue
 * the bit that fits best counts, so that what has nothing to do with it does no harm.
 */
export function align(frames: Frames, streams: readonly Stream[], cues: readonly Cue[]): Alignment {
  const startS = Math.min(...cues.map((c) => c.fromS));
  const lengthS = Math.max(1, Math.max(...cues.map((c) => c.toS)) - startS);
  const kinds = edgesOf(cues);
  const bits = quietBits(frames, streams, kinds);
  if (bits.length === 0 || kinds.length === 0) return { shiftS: 0, drift: 0, startS, sure: 0 };
  const fitAt = (shiftS: number, drift: number, among: readonly Flips[] = bits) =>
    kinds.reduce((sum, k) => {
      const times = k.times.map((t) => t + shiftS + drift * (t - startS));
      return sum + Math.max(...among.map((flips) => agreement(flips, times)));
    }, 0);
  const tried: { shiftS: number; fit: number }[] = [];
  for (let shiftS = -MOST_SHIFT_S; shiftS <= MOST_SHIFT_S + 1e-9; shiftS += SPREAD_S / 2)
    tried.push({ shiftS, fit: fitAt(shiftS, 0) });
  // A drift moves the best shift of a long record: all good shifts are tried with drifts, with the bits that can matter.
  const best = tried.reduce((a, b) => (b.fit > a.fit ? b : a));
  const near = bitsNear(bits, kinds);
  const driftStep = Math.max(MOST_DRIFT / 10, SPREAD_S / 3 / lengthS);
  let found = { shiftS: best.shiftS, drift: 0, fit: best.fit };
  for (const { shiftS } of [...tried].sort((a, b) => b.fit - a.fit).slice(0, 12)) {
    for (let drift = -MOST_DRIFT; drift <= MOST_DRIFT + 1e-12; drift += driftStep) {
      const here = fitAt(shiftS, drift, near);
      if (here > found.fit + 1e-9) found = { shiftS, drift, fit: here };
    }
  }
  for (const step of [SPREAD_S / 4, SPREAD_S / 10])
    for (const shiftS of [found.shiftS - 2 * step, found.shiftS - step, found.shiftS + step, found.shiftS + 2 * step]) {
      const here = fitAt(shiftS, found.drift, near);
      if (here > found.fit + 1e-9) found = { ...found, shiftS, fit: here };
    }
  const elsewhere = Math.max(
    0,
    ...tried.filter((t) => Math.abs(t.shiftS - found.shiftS) > 4 * SPREAD_S).map((t) => t.fit),
  );
  return {
    shiftS: found.shiftS,
    drift: found.drift,
    startS,
    sure: found.fit > 0 ? Math.max(0, 1 - elsewhere / found.fit) : 0,
  };
}

/** Beginnings and ends of the cues of each label; levels begin and end too softly. */
function edgesOf(cues: readonly Cue[]): Edges[] {
  const byLabel = new Map<string, number[]>();
  for (const c of cues) {
    if (c.value !== undefined) continue;
    const key = `${c.thing}/${c.label}`;
    byLabel.set(key, [...(byLabel.get(key) ?? []), c.fromS, c.toS]);
  }
  return [...byLabel].map(([label, times]) => ({ label, times: times.sort((a, b) => a - b) }));
}

/** Changes of the bits that change about as often as something that was cued. */
function quietBits(frames: Frames, streams: readonly Stream[], kinds: readonly Edges[]): Flips[] {
  const edges = kinds.reduce((n, k) => n + k.times.length, 0);
  const found: Flips[] = [];
  for (const stream of streams) {
    for (const bit of changingBits(frames, stream)) {
      if (isProtection(stream.protections, bit)) continue;
      const flips = flipsOf(frames, stream, bit, 3 * edges + 8);
      if (flips) found.push(flips);
    }
  }
  return found;
}

/** Times at which a bit changes; null when there are more than `most`. */
function flipsOf(frames: Frames, { rows }: Stream, bit: number, most: number): Flips | null {
  const times: number[] = [];
  const read = (row: number) => ((frames.data[(frames.at[row] as number) + (bit >> 3)] as number) >> (bit & 7)) & 1;
  let before = read(rows[0] as number);
  for (const row of rows) {
    const now = read(row);
    if (now === before) continue;
    before = now;
    times.push(frames.timeS[row] as number);
    if (times.length > most) return null;
  }
  return Float64Array.from(times);
}

/** Bits that fit some kind of cue somewhere. */
function bitsNear(bits: readonly Flips[], kinds: readonly Edges[]): readonly Flips[] {
  const scored = bits.map((flips) => ({
    flips,
    best: Math.max(
      ...kinds.flatMap((k) =>
        [-2, -1.5, -1, -0.5, 0, 0.5, 1, 1.5, 2].map((s) =>
          agreement(
            flips,
            k.times.map((t) => t + s),
            0.5,
          ),
        ),
      ),
    ),
  }));
  return scored
    .sort((a, b) => b.best - a.best)
    .slice(0, 60)
    .map((s) => s.flips);
}

/** How well changes lie on edges, 0 to 1: those that lie on one, times the edges that have one. */
function agreement(flips: Flips, edges: readonly number[], spreadS = SPREAD_S): number {
  let [onEdge, met] = [0, 0];
  let e = 0;
  for (const t of flips) {
    while (e + 1 < edges.length && Math.abs((edges[e + 1] as number) - t) <= Math.abs((edges[e] as number) - t)) e++;
    onEdge += bell(((edges[e] as number) - t) / spreadS);
  }
  let f = 0;
  for (const t of edges) {
    while (f + 1 < flips.length && Math.abs((flips[f + 1] as number) - t) <= Math.abs((flips[f] as number) - t)) f++;
    met += flips.length > 0 ? bell(((flips[f] as number) - t) / spreadS) : 0;
  }
  return flips.length === 0 ? 0 : (onEdge / flips.length) * (met / edges.length);
}

function bell(x: number): number {
  return Math.abs(x) > 4 ? 0 : Math.exp(-0.5 * x * x);
}
