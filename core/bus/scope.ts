/** Bit rate and levels of a bus from what a scope has recorded of one of its lines. */
import Papa from "papaparse";

export interface ScopeReading {
  /** Measured, in bits a second; null when the edges fit no rate. */
  bitsPerS: number | null;
  /** The usual rate that it is, in kbit/s; null when it lies near none. */
  usualKbit: number | null;
  edges: number;
  /** Level at rest, and level of the other bits, in volts. */
  restV: number;
  drivenV: number;
  /** Which line it is: driven up from rest, down, or the difference of both. Null when the levels are none of a bus. */
  line: "high" | "low" | "difference" | null;
}

/** Why a file is no recording of a line. */
export class ScopeProblem extends Error {}

/** Rates in kbit/s at which cars run. Source: common practice. */
const USUAL_KBIT = [10, 20, 33.333, 50, 83.333, 95.238, 100, 125, 250, 500, 800, 1000] as const;
/** A rate counts as a usual one within this share: half the tolerance that receivers bear. */
const NEAR = 0.01;
/** At most five equal bits follow each other, then a stuff bit comes; longer is the end of a frame or rest. */
const MOST_EQUAL = 5;
const TICKS: Readonly<Record<string, number>> = { s: 1, ms: 1e-3, us: 1e-6, µs: 1e-6, μs: 1e-6, ns: 1e-9 };

/**
 * Reads a table of time and voltage. Lines before the numbers are passed over; a unit of time in the heading is followed,
 * else seconds.
 *
 * @throws {ScopeProblem} with what is missing
 */
export function readScope(text: string): ScopeReading {
  const { timeS, volts } = samples(text);
  const sorted = Float64Array.from(volts).sort();
  const low = sorted[Math.floor(0.02 * sorted.length)] as number;
  const high = sorted[Math.ceil(0.98 * sorted.length) - 1] as number;
  if (high - low < 0.3)
    throw new ScopeProblem("The line hardly moves: less than 0.3 V. Is the bus awake, and the probe on it?");
  const edges = edgesOf(timeS, volts, low, high);
  if (edges.length < 20) throw new ScopeProblem(`Only ${edges.length} edges. Record more than one frame, about 2 ms.`);
  // Between frames the bus is at rest: the level of the longest stretch.
  let longest = 1;
  for (let i = 2; i < edges.length; i++) if (gap(edges, i) > gap(edges, longest)) longest = i;
  const restIsHigh = edges[longest - 1]?.up ?? true;
  const [restV, drivenV] = restIsHigh ? [high, low] : [low, high];
  const bit = bitTime(edges.map((e) => e.atS));
  const rate = bit === null ? null : 1 / bit;
  const usual = rate === null ? undefined : USUAL_KBIT.find((k) => Math.abs(1000 * k - rate) < NEAR * rate);
  return {
    bitsPerS: rate,
    usualKbit: usual ?? null,
    edges: edges.length,
    restV,
    drivenV,
    line: lineOf(restV, drivenV),
  };
}

function samples(text: string): { timeS: number[]; volts: number[] } {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: true });
  const number = (cell: string | undefined) =>
    cell === undefined || cell.trim() === "" ? Number.NaN : Number(cell.replace(",", "."));
  const first = data.findIndex((r) => !Number.isNaN(number(r[0])) && !Number.isNaN(number(r[1])));
  if (first < 0) throw new ScopeProblem("The file has no two columns of numbers: time and voltage.");
  const unit = data
    .slice(0, first)
    .map((r) => /[([](ns|us|µs|μs|ms|s)[)\]]/i.exec(r[0] ?? "")?.[1]?.toLowerCase())
    .find((u) => u);
  const tick = TICKS[unit ?? "s"] ?? 1;
  const timeS: number[] = [];
  const volts: number[] = [];
  for (const row of data.slice(first)) {
    const [t, v] = [number(row[0]), number(row[1])];
    if (Number.isNaN(t) || Number.isNaN(v)) continue;
    timeS.push(t * tick);
    volts.push(v);
  }
  if (timeS.length < 100) throw new ScopeProblem(`Only ${timeS.length} samples. Save the whole memory of the scope.`);
  return { timeS, volts };
}

interface Edge {
  atS: number;
  up: boolean;
}

/** Crossings of the middle, between two thresholds so that noise makes none; the moment between two samples is estimated. */
function edgesOf(timeS: readonly number[], volts: readonly number[], low: number, high: number): Edge[] {
  const middle = (low + high) / 2;
  const margin = (high - low) / 5;
  const edges: Edge[] = [];
  let isHigh = (volts[0] as number) > middle;
  let crossedS = timeS[0] as number;
  for (let i = 1; i < volts.length; i++) {
    const [a, b] = [volts[i - 1] as number, volts[i] as number];
    if (a > middle !== b > middle)
      crossedS =
        (timeS[i - 1] as number) + ((middle - a) / (b - a)) * ((timeS[i] as number) - (timeS[i - 1] as number));
    if (isHigh ? b < middle - margin : b > middle + margin) {
      isHigh = !isHigh;
      edges.push({ atS: crossedS, up: isHigh });
    }
  }
  return edges;
}

function gap(edges: readonly Edge[], i: number): number {
  return (edges[i] as Edge).atS - (edges[i - 1] as Edge).atS;
}

/** The time of one bit: the longest of which nearly all stretches inside frames are whole multiples. Null when there is none. */
function bitTime(atS: readonly number[]): number | null {
  const gaps = atS
    .slice(1)
    .map((t, i) => t - (atS[i] as number))
    .sort((a, b) => a - b);
  // The shortest are single bits, but for edges that noise has moved.
  const single = gaps[Math.floor(gaps.length / 20)] as number;
  for (const parts of [1, 2, 3]) {
    let bit = single / parts;
    for (let round = 0; round < 4; round++) {
      const inside = gaps.filter((g) => g < (MOST_EQUAL + 0.5) * bit && g > 0.5 * bit);
      const counts = inside.map((g) => Math.round(g / bit));
      const squares = counts.reduce((s, n) => s + n * n, 0);
      if (squares === 0) break;
      bit = inside.reduce((s, g, i) => s + g * (counts[i] as number), 0) / squares;
    }
    const inside = gaps.filter((g) => g < (MOST_EQUAL + 0.5) * bit);
    const off = inside.filter((g) => Math.abs(g / bit - Math.round(g / bit)) > 0.25 || g < 0.5 * bit).length;
    if (inside.length >= 0.5 * gaps.length && off <= 0.05 * inside.length) return bit;
  }
  return null;
}

/** Source: ISO 11898-2, nominal levels: 2.5 V at rest, 3.5 V and 1.5 V driven (from memory). */
function lineOf(restV: number, drivenV: number): ScopeReading["line"] {
  const near = (v: number, nominal: number) => Math.abs(v - nominal) < 0.6;
  if (near(restV, 2.5) && near(drivenV, 3.5)) return "high";
  if (near(restV, 2.5) && near(drivenV, 1.5)) return "low";
  return Math.abs(restV) < 0.4 && drivenV > 1.2 && drivenV < 3.2 ? "difference" : null;
}
