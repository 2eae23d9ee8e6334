/** Reads a bus log and decodes signals away from the page. */
import { expose } from "comlink";
import { type Dbc, parseDbc } from "~/core/bus/dbc";
import { decodeSeries, messageFor, valueNames } from "~/core/bus/decode";
import type { LineProblem } from "~/core/bus/errors";
import { type Frames, idText } from "~/core/bus/frames";
import { parseLog } from "~/core/bus/log";
import { busLoads, statistics } from "~/core/bus/statistics";

const BIT_RATE = 500_000;
/** Points of a drawn series; more cannot be told apart on a screen. */
const DRAWN_POINTS = 6000;

export interface IdRow {
  key: string;
  channel: string;
  id: string;
  name: string | null;
  count: number;
  cycleMs: number;
  jitterMs: number;
  length: number;
  signals: string[];
}
export interface LogSummary {
  frames: number;
  durationS: number;
  /** Of each bus for itself. */
  loads: { channel: string; load: number }[];
  rows: IdRow[];
  badLines: number;
  problems: LineProblem[];
  dbcProblems: LineProblem[];
}
export interface DrawnSeries {
  name: string;
  unit: string;
  points: [number, number][];
  values: [number, string][];
}

let frames: Frames | null = null;
let dbc: Dbc = { messages: [], problems: [] };

const worker = {
  /** Reads both files; null when the log is none of the formats that are read. */
  open(log: Uint8Array, dbcText: string | null, progress: (share: number) => void): LogSummary | null {
    const parsed = parseLog(log, (done, total) => {
      progress(done / total);
      return true;
    });
    if (!parsed) return null;
    frames = parsed.frames;
    dbc = dbcText === null ? { messages: [], problems: [] } : parseDbc(dbcText);
    const rows = statistics(frames).map((s): IdRow => {
      const message = messageFor(dbc, s.id, s.extended);
      return {
        key: `${s.channel} ${s.id}${s.extended ? "x" : ""}`,
        channel: s.channel,
        id: idText(s.id, s.extended),
        name: message?.name ?? null,
        count: s.count,
        cycleMs: s.cycleMs,
        jitterMs: s.jitterMs,
        length: s.length,
        signals: message?.signals.map((x) => x.name) ?? [],
      };
    });
    const last = frames.count - 1;
    return {
      frames: frames.count,
      durationS: frames.count > 1 ? (frames.timeS[last] as number) - (frames.timeS[0] as number) : 0,
      loads: busLoads(frames, BIT_RATE),
      rows,
      badLines: parsed.badLines,
      problems: parsed.problems,
      dbcProblems: dbc.problems,
    };
  },

  /** One signal over time, thinned to what can be drawn: repeated values are dropped, changes are kept. */
  series(messageName: string, signalName: string): DrawnSeries | null {
    const message = dbc.messages.find((m) => m.name === messageName);
    const signal = message?.signals.find((s) => s.name === signalName);
    if (!frames || !message || !signal) return null;
    const { timeS, value } = decodeSeries(frames, message, signal);
    const start = frames.timeS[0] ?? 0;
    const points: [number, number][] = [];
    for (let i = 0; i < timeS.length; i++) {
      const repeated = i > 0 && i < timeS.length - 1 && value[i] === value[i - 1] && value[i] === value[i + 1];
      if (!repeated) points.push([(timeS[i] as number) - start, value[i] as number]);
    }
    const step = Math.max(1, Math.ceil(points.length / DRAWN_POINTS));
    return {
      name: signal.name,
      unit: signal.unit,
      points: points.filter((_, i) => i % step === 0),
      values: [...valueNames(signal)],
    };
  },
};

export type LogWorker = typeof worker;
expose(worker);
