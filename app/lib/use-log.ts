import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useMemo, useRef, useState } from "react";
import type { HuntShown } from "~/app/workers/log/hunt";
import type { IdFacts, Progress } from "~/app/workers/log/open";
import type { LevelTrack, ReplayShown } from "~/app/workers/log/replay";
import type { DrawnSeries } from "~/app/workers/log/series";
import type { LogWorker, Naming, OpenedLog } from "~/app/workers/log.worker";
import type { Compared } from "~/core/bus/compare";
import type { LineProblem } from "~/core/bus/errors";
import type { Cue, Thing } from "~/core/bus/hunt/cues";
import type { FoundSignal } from "~/core/bus/hunt/found";
import type { Rule } from "~/core/bus/translation/translation";

/** An identifier of a log, with what the bus description says of it. */
export interface IdRow extends IdFacts {
  name: string | null;
  signals: string[];
}
export interface LogSummary extends Omit<OpenedLog, "rows"> {
  rows: IdRow[];
  /** Where the bus description lies that names the rows; null without one. */
  describedBy: string | null;
  dbcProblems: LineProblem[];
}

export type LogState =
  | { kind: "loading"; progress: Progress }
  | { kind: "ready"; summary: LogSummary }
  | { kind: "failed"; message: string }
  | { kind: "cancelled" };

type Opening = Exclude<LogState, { kind: "ready" }> | { kind: "open"; log: OpenedLog };

const NOT_NAMED = { name: null, signals: [] };
const NOTHING_YET: Opening = { kind: "loading", progress: { share: 0, frames: 0, rows: [] } };

/**
 * Reads a stored log in a worker, with progress; `cancel` stops it. Its bus description names what is there, and may
 * change without the log being read again: until the new one is understood the old names stand. Without a log it waits.
 */
export function useLog(jobId: string, logFile: string | null, descriptionUrl: string | null) {
  const [opening, setOpening] = useState<Opening>(NOTHING_YET);
  const [naming, setNaming] = useState<Naming | null>(null);
  const remote = useRef<Remote<LogWorker> | null>(null);
  const stop = useRef<() => void>(() => undefined);

  useEffect(() => {
    if (logFile === null) return;
    const worker = new Worker(new URL("../workers/log.worker.ts", import.meta.url), { type: "module" });
    const wrapped = wrap<LogWorker>(worker);
    remote.current = wrapped;
    let over = false;
    const end = () => {
      over = true;
      worker.terminate();
    };
    const now = (next: Opening) => {
      if (!over) setOpening(next);
    };
    stop.current = () => {
      now({ kind: "cancelled" });
      end();
    };
    setNaming(null);
    now(NOTHING_YET);
    const told = proxy((progress: Progress) => now({ kind: "loading", progress }));
    wrapped.open({ file: logFile, url: `/jobs/${jobId}/files/${logFile}` }, told).then(
      (log) => now({ kind: "open", log }),
      (error: Error) => now({ kind: "failed", message: error.message }),
    );
    return end;
  }, [jobId, logFile]);

  const isOpen = opening.kind === "open";
  useEffect(() => {
    if (!isOpen) return;
    let over = false;
    remote.current?.describe(descriptionUrl).then(
      (named) => !over && setNaming(named),
      (error: Error) => !over && setOpening({ kind: "failed", message: error.message }),
    );
    return () => {
      over = true;
    };
  }, [isOpen, descriptionUrl]);

  const state = useMemo((): LogState => {
    if (opening.kind !== "open") return opening;
    if (naming === null) return { kind: "loading", progress: { share: 1, frames: opening.log.frames, rows: [] } };
    const rows = opening.log.rows.map((r): IdRow => ({ ...r, ...(naming.names[r.key] ?? NOT_NAMED) }));
    return { kind: "ready", summary: { ...opening.log, rows, describedBy: naming.url, dbcProblems: naming.problems } };
  }, [opening, naming]);

  return {
    state,
    cancel: () => stop.current(),
    hunt: (
      things: readonly Thing[],
      cues: readonly Cue[],
      labels: Readonly<Record<string, readonly string[]>>,
      progress: (share: number) => void,
    ): Promise<HuntShown | null> =>
      remote.current?.hunt(things, cues, labels, proxy(progress)) ?? Promise.resolve(null),
    replay: (
      rules: readonly Rule[],
      signals: readonly FoundSignal[],
      cues: readonly Cue[],
    ): Promise<ReplayShown | null> => remote.current?.replay(rules, signals, cues) ?? Promise.resolve(null),
    level: (rule: Rule, signals: readonly FoundSignal[]): Promise<LevelTrack | null> =>
      remote.current?.level(rule, signals) ?? Promise.resolve(null),
    compare: (before: string): Promise<Compared[]> =>
      remote.current?.compare(
        { file: before, url: `/jobs/${jobId}/files/${before}` },
        proxy(() => undefined),
      ) ?? Promise.resolve([]),
    write: (form: string): Promise<Blob | null> => remote.current?.write(form) ?? Promise.resolve(null),
    loads: (bitsPerS: number) => remote.current?.loads(bitsPerS) ?? Promise.resolve([]),
    series: (keys: readonly string[], fromS: number, toS: number, columns: number): Promise<DrawnSeries[]> =>
      remote.current?.series(keys, fromS, toS, columns) ?? Promise.resolve([]),
  };
}
