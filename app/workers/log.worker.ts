/** Reads a bus log and answers what is on it, away from the page. */
import { expose } from "comlink";
import { type Compared, compareLogs } from "~/core/bus/compare";
import { parseDbc } from "~/core/bus/dbc";
import type { Dbc } from "~/core/bus/dbc-messages";
import { dbcText } from "~/core/bus/dbc-statements";
import { messageFor } from "~/core/bus/decode";
import type { LineProblem } from "~/core/bus/errors";
import type { Frames } from "~/core/bus/frames";
import type { Cue, Thing } from "~/core/bus/hunt/cues";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { LOG_FORMATS, type ParsedLog } from "~/core/bus/log";
import { type BusLoad, busLoads } from "~/core/bus/statistics";
import type { Rule } from "~/core/bus/translation/translation";
import { type HuntShown, huntIn } from "./log/hunt";
import { type LogFacts, openLog, type Progress } from "./log/open";
import { type LevelTrack, levelIn, type ReplayShown, replayIn } from "./log/replay";
import { type DrawnSeries, SignalSeries } from "./log/series";
import { wholeFile } from "./stored-file";

/** A log as it was opened. */
export interface OpenedLog extends Omit<ParsedLog, "frames">, LogFacts {
  frames: number;
}
/** What a bus description says of the identifiers of a log. */
export interface Naming {
  /** Where it lies; null for none. */
  url: string | null;
  /** By the key of the row; nothing for those that are not named. */
  names: Record<string, { name: string; signals: string[] }>;
  problems: LineProblem[];
}

const NO_DBC: Dbc = { messages: [], problems: [] };
let frames: Frames | null = null;
let rows: LogFacts["rows"] = [];
let dbc: Dbc = NO_DBC;
let shownSeries: SignalSeries | null = null;
let descriptions = 0;

const worker = {
  /**
   * Reads a stored log, or takes it as it was read before.
   *
   * @throws when the file is not there or in none of the formats that are read; the message is for the person
   */
  async open(log: { file: string; url: string }, progress: (p: Progress) => void): Promise<OpenedLog> {
    const { log: parsed, facts } = await openLog(log, progress);
    frames = parsed.frames;
    rows = facts.rows;
    return { ...parsed, ...facts, frames: parsed.frames.count };
  },

  /** Names what is on the log by a bus description, or by none; the log is not read again. */
  async describe(url: string | null): Promise<Naming> {
    const mine = ++descriptions;
    const read = url === null ? NO_DBC : parseDbc(dbcText(await wholeFile(url)));
    // One that was asked for later may have come sooner.
    if (mine === descriptions) {
      dbc = read;
      shownSeries = frames && new SignalSeries(frames, dbc);
    }
    const names = rows.flatMap((r) => {
      const message = messageFor(read, r.id, r.extended);
      return message ? [[r.key, { name: message.name, signals: message.signals.map((s) => s.name) }] as const] : [];
    });
    return { url, names: Object.fromEntries(names), problems: read.problems };
  },

  hunt(
    things: readonly Thing[],
    cues: readonly Cue[],
    labels: Readonly<Record<string, readonly string[]>>,
    progress: (share: number) => void,
  ): HuntShown | null {
    return frames && huntIn(frames, dbc, things, cues, labels, progress);
  },

  replay(rules: readonly Rule[], signals: readonly FoundSignal[], cues: readonly Cue[]): ReplayShown | null {
    return frames && replayIn(frames, rules, signals, cues);
  },

  level(rule: Rule, signals: readonly FoundSignal[]): LevelTrack | null {
    return frames && levelIn(frames, rule, signals);
  },

  /** This log against one recorded before it. */
  async compare(before: { file: string; url: string }, progress: (p: Progress) => void): Promise<Compared[]> {
    if (!frames) return [];
    const { log } = await openLog(before, progress);
    return compareLogs(log.frames, frames).filter((c) => c.differences.length > 0);
  },

  /** The log in another form; null for one that is only read. */
  write(form: string): Blob | null {
    const written = frames && LOG_FORMATS.find((f) => f.name === form)?.write?.(frames);
    return written ? new Blob([...written]) : null;
  },

  loads(bitsPerS: number): BusLoad[] {
    return frames ? busLoads(frames, bitsPerS) : [];
  },

  series(keys: readonly string[], fromS: number, toS: number, columns: number): DrawnSeries[] {
    return shownSeries?.drawn(keys, fromS, toS, columns) ?? [];
  },
};

export type LogWorker = typeof worker;
expose(worker);
