/** Fetches a stored log, reads it, and computes once what is on it. */
import { transfer, wrap } from "comlink";
import { rowsById } from "~/core/bus/by-id";
import { EXTENDED, type Frames } from "~/core/bus/frames";
import { idText } from "~/core/bus/identifier";
import { USUAL_BITS_PER_S } from "~/core/bus/limits";
import { type LogReading, type ParsedLog, type PartReader, readLog } from "~/core/bus/log";
import { type Protection, protections } from "~/core/bus/protection";
import {
  type BusLoad,
  busLoads,
  type ClockJump,
  clockJumps,
  type ErrorBurst,
  errorBursts,
  type IdStatistics,
  type Oddity,
  oddities,
  statistics,
} from "~/core/bus/statistics";
import { type KeptLog, keepLog, keptLog } from "../kept-logs";
import type { PartWorker } from "../read-part.worker";
import { answerTo } from "../stored-file";

/** So often the page hears how far something is. */
export const TELL_MS = 400;

export interface IdFacts extends Omit<IdStatistics, "flips" | "lastRow"> {
  key: string;
  /** For each bit of the message: 0 never changes, 1 seldom, 2 often. Bit b of byte n at 8·n + b. */
  bits: number[];
  oddities: Oddity[];
  protections: Protection[];
}
/** What is computed once of a log and kept with it. */
export interface LogFacts {
  startS: number;
  durationS: number;
  /** Of each bus for itself, at the usual rate. */
  loads: BusLoad[];
  rows: IdFacts[];
  errorBursts: Several<ErrorBurst>;
  clockJumps: Several<ClockJump>;
}
/** The first of many. */
interface Several<T> {
  count: number;
  first: T[];
}
/** An identifier while the log is still being read. */
export interface SoFar {
  id: string;
  count: number;
}
export interface Progress {
  /** Share of the file that is read, 0 to 1. */
  share: number;
  frames: number;
  rows: SoFar[];
}

/**
 * A stored log as it was read before, or read now and kept.
 *
 * @throws when the file is not there or in none of the formats that are read; the message is for the person
 */
export async function openLog(
  { file, url }: { file: string; url: string },
  progress: (p: Progress) => void,
): Promise<KeptLog<LogFacts>> {
  const kept = await keptLog<LogFacts>(file);
  if (kept) return kept;
  const log = await fetched(url, progress);
  const read = { log, facts: factsOf(log.frames) };
  void keepLog(file, read);
  return read;
}

function factsOf(log: Frames): LogFacts {
  const groups = rowsById(log);
  const startS = log.timeS[0] ?? 0;
  const span = { startS, endS: log.timeS[log.count - 1] ?? 0 };
  const rows = statistics(log, groups).map(({ flips, lastRow, ...s }, i): IdFacts => {
    const group = groups[i] as (typeof groups)[number];
    return {
      ...s,
      key: `${s.channel} ${idText(s.id, s.extended)}`,
      bits: Array.from(flips, (n) => (n === 0 ? 0 : n < s.count / 20 ? 1 : 2)),
      oddities: oddities({ ...s, flips, lastRow }, span),
      protections: protections(log, group),
    };
  });
  return {
    startS,
    durationS: Math.max(0, span.endS - span.startS),
    loads: busLoads(log, USUAL_BITS_PER_S),
    rows,
    errorBursts: several(errorBursts(log)),
    clockJumps: several(clockJumps(log)),
  };
}

function several<T>(list: readonly T[]): Several<T> {
  return { count: list.length, first: list.slice(0, 5) };
}

/** Stored files beyond are read by two workers side by side; smaller ones are read before those have begun. */
const LARGE_BYTES = 4_000_000;
const PART_READERS = 2;

/** Workers that read parts of a log. */
function partReaders(): { readers: PartReader[]; end(): void } {
  const workers = Array.from(
    { length: PART_READERS },
    () => new Worker(new URL("../read-part.worker.ts", import.meta.url), { type: "module" }),
  );
  const readers = workers.map((w): PartReader => {
    const remote = wrap<PartWorker>(w);
    return (format, lines) => remote.read(format, transfer(lines, [lines.buffer]));
  });
  return { readers, end: () => workers.map((w) => w.terminate()) };
}

async function fetched(url: string, progress: (p: Progress) => void): Promise<ParsedLog> {
  const answer = await answerTo(url);
  const total = Number(answer.headers.get("X-File-Bytes") ?? 0);
  const tally = new Tally();
  let toldMs = performance.now();
  const told = (bytes: number, reading: LogReading) => {
    if (performance.now() - toldMs < TELL_MS) return;
    toldMs = performance.now();
    progress({ share: total > 0 ? bytes / total : 0, ...tally.of(reading) });
  };
  const { readers, end } = total > LARGE_BYTES ? partReaders() : { readers: [], end: () => undefined };
  try {
    return await readLog(answer.body as unknown as AsyncIterable<Uint8Array>, told, readers);
  } finally {
    end();
  }
}

/** Counts identifiers of what is read so far; looks at each block of frames once. */
class Tally {
  private readonly counts = new Map<string, number>();
  private done = 0;
  private frames = 0;

  of({ sink }: LogReading): { frames: number; rows: SoFar[] } {
    const { blocks } = sink.frames;
    // The last block is still being written.
    for (; this.done < blocks.length - 1; this.done++) {
      const block = blocks[this.done];
      if (!block) break;
      for (let i = 0; i < block.count; i++) {
        const id = idText(block.id[i] as number, ((block.flags[i] as number) & EXTENDED) !== 0);
        this.counts.set(id, (this.counts.get(id) ?? 0) + 1);
      }
      this.frames += block.count;
    }
    const rows = [...this.counts].map(([id, count]) => ({ id, count }));
    return { frames: this.frames, rows: rows.sort((a, b) => b.count - a.count) };
  }
}
