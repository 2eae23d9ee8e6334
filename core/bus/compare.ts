/** Two logs of one car against each other: before and after the kit, engine off and on. */
import { dataOf, type Frames } from "./frames";
import { type IdStatistics, statistics } from "./statistics";

export type Difference =
  | { kind: "new" | "missing" }
  /** Both are steady, at different rates. */
  | { kind: "rate"; beforeMs: number; afterMs: number }
  | { kind: "length"; before: number[]; after: number[] }
  /** Bits that change in one log only, or stand at another value. Bit b of byte n at 8·n + b. */
  | { kind: "bits"; livelier: number[]; quieter: number[]; turned: number[] };

export interface Compared {
  /** Empty when both logs are of one bus. */
  channel: string;
  id: number;
  extended: boolean;
  before: IdStatistics | null;
  after: IdStatistics | null;
  differences: Difference[];
}

/** Rates this much apart differ. */
const RATE = 1.3;

/** Every identifier of both logs; those that do not differ have no differences. */
export function compareLogs(before: Frames, after: Frames): Compared[] {
  // A log of one bus is compared with one of another name, too.
  const alone = before.channels.length <= 1 && after.channels.length <= 1;
  const [a, b] = [logOf(before, alone), logOf(after, alone)];
  const keys = [...new Set([...a.keys(), ...b.keys()])];
  return keys
    .map((key) => pair(a.get(key) ?? null, b.get(key) ?? null))
    .sort((x, y) => x.channel.localeCompare(y.channel) || Number(x.extended) - Number(y.extended) || x.id - y.id);
}

interface One {
  statistics: IdStatistics;
  /** Data of the last frame: where bits that do not change stand. */
  stands: Uint8Array;
}

function logOf(frames: Frames, alone: boolean): Map<string, One> {
  return new Map(
    statistics(frames).map((one) => {
      const s = alone ? { ...one, channel: "" } : one;
      return [`${s.channel} ${s.extended} ${s.id}`, { statistics: s, stands: dataOf(frames, s.lastRow) }];
    }),
  );
}

function pair(before: One | null, after: One | null): Compared {
  const one = (after ?? before) as One;
  const { channel, id, extended } = one.statistics;
  const head = { channel, id, extended, before: before?.statistics ?? null, after: after?.statistics ?? null };
  if (!before) return { ...head, differences: [{ kind: "new" }] };
  if (!after) return { ...head, differences: [{ kind: "missing" }] };
  return {
    ...head,
    differences: [
      ...rate(before.statistics, after.statistics),
      ...lengths(before.statistics, after.statistics),
      ...bits(before, after),
    ],
  };
}

function rate(a: IdStatistics, b: IdStatistics): Difference[] {
  if (!a.steady || !b.steady) return [];
  const ratio = a.cycleMs / b.cycleMs;
  return ratio > RATE || ratio < 1 / RATE ? [{ kind: "rate", beforeMs: a.cycleMs, afterMs: b.cycleMs }] : [];
}

function lengths(a: IdStatistics, b: IdStatistics): Difference[] {
  return a.lengths.join() === b.lengths.join() ? [] : [{ kind: "length", before: a.lengths, after: b.lengths }];
}

function bits(a: One, b: One): Difference[] {
  const n = Math.min(a.statistics.flips.length, b.statistics.flips.length);
  const found = { livelier: [] as number[], quieter: [] as number[], turned: [] as number[] };
  for (let bit = 0; bit < n; bit++) {
    const [moved, moves] = [(a.statistics.flips[bit] ?? 0) > 0, (b.statistics.flips[bit] ?? 0) > 0];
    if (moves && !moved) found.livelier.push(bit);
    else if (moved && !moves) found.quieter.push(bit);
    else if (!moved && !moves && bitOf(a.stands, bit) !== bitOf(b.stands, bit)) found.turned.push(bit);
  }
  return found.livelier.length + found.quieter.length + found.turned.length > 0 ? [{ kind: "bits", ...found }] : [];
}

function bitOf(data: Uint8Array, bit: number): number {
  return ((data[bit >> 3] ?? 0) >> (bit & 7)) & 1;
}
