/** Reads a bus log and answers what is on it, away from the page. */
import { expose, transfer, wrap } from "comlink";
import { rowsById } from "~/core/bus/by-id";
import { type Compared, compareLogs } from "~/core/bus/compare";
import { parseDbc } from "~/core/bus/dbc";
import type { Dbc, DbcMessage, DbcSignal } from "~/core/bus/dbc-messages";
import { dbcText } from "~/core/bus/dbc-statements";
import { decodeSeries, messageFor, valueNames } from "~/core/bus/decode";
import type { LineProblem } from "~/core/bus/errors";
import { EXTENDED, type Frames, idText } from "~/core/bus/frames";
import type { Alignment } from "~/core/bus/hunt/align";
import type { Candidate, NextCue } from "~/core/bus/hunt/candidates";
import { type Cue, onClock, type Thing } from "~/core/bus/hunt/cues";
import { type Finding, findingOf } from "~/core/bus/hunt/finding";
import { type FoundSignal, messagesOf } from "~/core/bus/hunt/found";
import { hunt } from "~/core/bus/hunt/hunt";
import { USUAL_BITS_PER_S } from "~/core/bus/limits";
import { LOG_FORMATS, type LogReading, type ParsedLog, type PartReader, readLog } from "~/core/bus/log";
import { type Protection, protections } from "~/core/bus/protection";
import { drawnPoints, type Pyramid, pyramidOf } from "~/core/bus/pyramid";
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
import { means, proveTranslation } from "~/core/bus/translation/proof";
import { type OnStretch, type OutputTrace, replay } from "~/core/bus/translation/replay";
import { type OutputId, type Rule, signalsOf } from "~/core/bus/translation/translation";
import { keepLog, keptLog } from "./kept-logs";
import type { PartWorker } from "./read-part.worker";
import { answerTo, wholeFile } from "./stored-file";

/** So often the page hears how far the reading is. */
const TELL_MS = 400;

export interface IdFacts extends Omit<IdStatistics, "flips" | "lastRow"> {
  key: string;
  /** For each bit of the message: 0 never changes, 1 seldom, 2 often. Bit b of byte n at 8·n + b. */
  bits: number[];
  oddities: Oddity[];
  protections: Protection[];
}
export interface IdRow extends IdFacts {
  /** By the bus description. */
  name: string | null;
  signals: string[];
}
/** What is computed once of a log and kept with it. */
interface LogFacts {
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
export interface LogSummary extends Omit<ParsedLog, "frames">, Omit<LogFacts, "rows"> {
  frames: number;
  rows: IdRow[];
  dbcProblems: LineProblem[];
}
export interface DrawnSeries {
  key: string;
  name: string;
  unit: string;
  /** Time in seconds from the beginning of the log, and value. */
  points: [number, number][];
  values: [number, string][];
}
export interface Progress {
  /** Share of the file that is read, 0 to 1. */
  share: number;
  frames: number;
  rows: SoFar[];
}

/** A candidate of the hunt with what is drawn of it. Times in seconds from the beginning of the log. */
export interface HuntCandidate {
  key: string;
  finding: Finding;
  kind: "state" | "toggle" | "counter" | "level";
  /** Name that the bus description has for the message. */
  known: string | null;
  /** Share of the time, the presses or the differences that it accounts for, 0 to 1. */
  fits: number;
  sure: boolean;
  falseShare: number;
  delayS: number | null;
  misses: [number, number][];
  falseAlarms: [number, number][];
  repeats: { id: string; byS: number }[];
  points: [number, number][];
}
export interface HuntShown {
  alignment: Alignment;
  durationS: number;
  things: {
    thing: Thing;
    /** On the clock of the log. */
    cues: Cue[];
    candidates: HuntCandidate[];
    excluded: { id: string; bit: number; reason: string }[];
    next: NextCue | null;
  }[];
}

/** A level where it changes; NaN while it is missing. */
export interface LevelTrack {
  durationS: number;
  timeS: number[];
  value: number[];
}

export interface ReplayShown {
  durationS: number;
  lanes: {
    output: OutputId;
    on: OnStretch[];
    cues: Cue[];
    /** A level as the way of a line through a lane of 1000 by 30; empty for others. */
    path: string;
  }[];
}

const NO_DBC: Dbc = { messages: [], problems: [] };
let frames: Frames | null = null;
let dbc: Dbc = NO_DBC;
const pyramids = new Map<string, Pyramid>();

const worker = {
  /**
   * Reads a stored log, or takes it as it was read before.
   *
   * @throws when the file is not there or in none of the formats that are read; the message is for the person
   */
  async open(
    log: { file: string; url: string },
    description: string | null,
    bitsPerS: number,
    progress: (p: Progress) => void,
  ): Promise<LogSummary> {
    const kept = await keptLog<LogFacts>(log.file);
    const parsed = kept?.log ?? (await fetched(log.url, progress));
    frames = parsed.frames;
    dbc = description === null ? NO_DBC : parseDbc(dbcText(await wholeFile(description)));
    pyramids.clear();
    const facts = kept?.facts ?? factsOf(frames);
    if (!kept) void keepLog(log.file, { log: parsed, facts });
    const { frames: _, ...told } = parsed;
    return {
      ...told,
      ...facts,
      frames: frames.count,
      loads: bitsPerS === USUAL_BITS_PER_S ? facts.loads : busLoads(frames, bitsPerS),
      rows: facts.rows.map((r): IdRow => {
        const message = messageFor(dbc, r.id, r.extended);
        return { ...r, name: message?.name ?? null, signals: message?.signals.map((x) => x.name) ?? [] };
      }),
      dbcProblems: dbc.problems,
    };
  },

  /**
   * Looks for what was done on cue.
   *
   * @param cues in seconds from the beginning of the log
   * @param labels all that each thing can do, by its identifier
   */
  hunt(
    things: readonly Thing[],
    cues: readonly Cue[],
    labels: Readonly<Record<string, readonly string[]>>,
    progress: (share: number) => void,
  ): HuntShown | null {
    if (!frames) return null;
    const log = frames;
    const startS = log.timeS[0] ?? 0;
    let toldMs = performance.now();
    const result = hunt(
      log,
      things,
      cues.map((c) => ({ ...c, fromS: c.fromS + startS, toS: c.toS + startS })),
      {
        labels,
        progress(share) {
          if (performance.now() - toldMs < TELL_MS) return;
          toldMs = performance.now();
          progress(share);
        },
      },
    );
    const { alignment } = result;
    const onLog = onClock(cues, { ...alignment, startS: alignment.startS - startS });
    return {
      alignment,
      durationS: (log.timeS[log.count - 1] ?? 0) - startS,
      things: result.things.map((t) => ({
        thing: t.thing,
        cues: onLog.filter((c) => c.thing === t.thing.id),
        candidates: t.candidates.map((c) => shown(c, t.thing, t.thing.unit, log)),
        excluded: t.excluded.map((e) => ({
          id: idText(e.field.stream.id, e.field.stream.extended),
          bit: e.field.startBit,
          reason: e.reason,
        })),
        next: t.next,
      })),
    };
  },

  /** What the outputs of a translation do in this log, beside what was done on cue. */
  replay(rules: readonly Rule[], signals: readonly FoundSignal[], cues: readonly Cue[]): ReplayShown | null {
    if (!frames) return null;
    const messages = messagesOf(signals, () => "");
    const known = new Set(messages.flatMap((m) => m.signals.map((s) => `${m.name}.${s.name}`)));
    const usable = rules.filter((r) => signalsOf(r).length > 0 && signalsOf(r).every((s) => known.has(s)));
    const told = proveTranslation(frames, { rules: usable }, { messages }, cues);
    const startS = frames.timeS[0] ?? 0;
    const durationS = (frames.timeS[frames.count - 1] ?? 0) - startS;
    return {
      durationS,
      lanes: told.traces.map((t) => ({
        output: t.output,
        on: t.on.map((s) => ({ fromS: s.fromS - startS, toS: s.toS - startS })),
        cues: told.cues.filter((c) => means(t.output, c)),
        path: levelPath(t.level, startS, durationS),
      })),
    };
  },

  /** How a level of a translation goes through this log, in seconds from its beginning; null when it cannot be told. */
  level(rule: Rule, signals: readonly FoundSignal[]): LevelTrack | null {
    if (!frames) return null;
    const messages = messagesOf(signals, () => "");
    const known = new Set(messages.flatMap((m) => m.signals.map((s) => `${m.name}.${s.name}`)));
    if (!signalsOf(rule).every((s) => known.has(s))) return null;
    const level = replay(frames, { rules: [rule] }, { messages })[0]?.level;
    const startS = frames.timeS[0] ?? 0;
    return level && level.timeS.length > 0
      ? {
          durationS: (frames.timeS[frames.count - 1] ?? 0) - startS,
          timeS: level.timeS.map((t) => t - startS),
          value: level.value,
        }
      : null;
  },

  /** This log against one recorded before it. */
  async compare(before: { file: string; url: string }, progress: (p: Progress) => void): Promise<Compared[]> {
    if (!frames) return [];
    const kept = await keptLog<LogFacts>(before.file);
    const other = kept?.log ?? (await fetched(before.url, progress));
    if (!kept) void keepLog(before.file, { log: other, facts: factsOf(other.frames) });
    return compareLogs(other.frames, frames).filter((c) => c.differences.length > 0);
  },

  /** The log in another form; null for one that is only read. */
  write(form: string): Blob | null {
    const written = frames && LOG_FORMATS.find((f) => f.name === form)?.write?.(frames);
    return written ? new Blob([...written]) : null;
  },

  loads(bitsPerS: number): BusLoad[] {
    return frames ? busLoads(frames, bitsPerS) : [];
  },

  /** Signals between two times (seconds from the beginning of the log), on so many pixel columns. Key: message/signal. */
  series(keys: readonly string[], fromS: number, toS: number, columns: number): DrawnSeries[] {
    return keys.flatMap((key) => {
      const [messageName, signalName] = key.split("/");
      const message = dbc.messages.find((m) => m.name === messageName);
      const signal = message?.signals.find((s) => s.name === signalName);
      if (!frames || !message || !signal) return [];
      const { name, unit } = signal;
      const points = drawnPoints(pyramid(frames, key, message, signal), fromS, toS, columns);
      return [{ key, name, unit, points, values: [...valueNames(signal)] }];
    });
  },
};

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

/** A candidate as it is shown. */
function shown(c: Candidate, thing: Thing, unit: string | undefined, log: Frames): HuntCandidate {
  const finding = findingOf(c, unit);
  const [message] = messagesOf([{ ...finding, signal: "S", message: "M", file: "", thing: thing.name }], () => "");
  const signal = message?.signals.at(-1);
  if (!message || !signal) throw new Error("a finding has a signal");
  const { timeS, value } = decodeSeries(log, message, signal, c.stream.rows);
  const startS = log.timeS[0] ?? 0;
  const last = timeS.length > 0 ? (timeS[timeS.length - 1] as number) : 0;
  const points = drawnPoints(pyramidOf({ timeS, value }), timeS[0] ?? 0, last, 700);
  return {
    finding,
    key: `${c.kind} ${idText(finding.id, finding.extended)} ${finding.startBit} ${finding.length} ${finding.page?.value ?? ""}`,
    kind: c.kind === "press" ? c.change : c.kind,
    known: messageFor(dbc, finding.id, finding.extended)?.name ?? null,
    fits: c.kind === "state" ? c.agreement : c.score,
    sure: c.sure,
    falseShare: c.falseShare,
    delayS: c.kind === "level" ? null : c.delayS,
    misses: c.kind === "state" ? c.misses.map((s) => [s.fromS - startS, s.toS - startS]) : [],
    falseAlarms: c.kind === "state" ? c.falseAlarms.map((s) => [s.fromS - startS, s.toS - startS]) : [],
    repeats: c.repeats.map((r) => ({ id: idText(r.field.stream.id, r.field.stream.extended), byS: r.byS })),
    points: points.map(([t, v]) => [t - startS, v]),
  };
}

function levelPath({ timeS, value }: OutputTrace["level"], startS: number, durationS: number): string {
  const points = timeS.flatMap((t, i) => (Number.isNaN(value[i]) ? [] : [[t - startS, value[i] as number] as const]));
  const drawn = drawnPoints(
    pyramidOf({ timeS: Float64Array.from(points, ([t]) => t), value: Float64Array.from(points, ([, v]) => v) }),
    0,
    durationS,
    800,
  );
  const values = drawn.map(([, v]) => v);
  const [least, range] = [Math.min(...values), Math.max(...values) - Math.min(...values) || 1];
  return drawn
    .map(
      ([t, v], i) =>
        `${i === 0 ? "M" : "L"}${((1000 * t) / Math.max(1, durationS)).toFixed(1)} ${(27 - (24 * (v - least)) / range).toFixed(1)}`,
    )
    .join("");
}

function pyramid(log: Frames, key: string, message: DbcMessage, signal: DbcSignal): Pyramid {
  const known = pyramids.get(key);
  if (known) return known;
  const { timeS, value } = decodeSeries(log, message, signal);
  const startS = log.timeS[0] ?? 0;
  const made = pyramidOf({ timeS: timeS.map((t) => t - startS), value });
  pyramids.set(key, made);
  return made;
}

/** Stored files beyond are read by two workers side by side; smaller ones are read before those have begun. */
const LARGE_BYTES = 4_000_000;
const PART_READERS = 2;

/** Workers that read parts of a log. */
function partReaders(): { readers: PartReader[]; end(): void } {
  const workers = Array.from(
    { length: PART_READERS },
    () => new Worker(new URL("./read-part.worker.ts", import.meta.url), { type: "module" }),
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

export type LogWorker = typeof worker;
expose(worker);
