import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type {
  DrawnSeries,
  HuntShown,
  LevelTrack,
  LogSummary,
  LogWorker,
  Progress,
  ReplayShown,
} from "~/app/workers/log.worker";
import type { Compared } from "~/core/bus/compare";
import type { Cue, Thing } from "~/core/bus/hunt/cues";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { USUAL_BITS_PER_S } from "~/core/bus/limits";
import type { Rule } from "~/core/bus/translation/translation";

export type LogState =
  | { kind: "loading"; progress: Progress }
  | { kind: "ready"; summary: LogSummary }
  | { kind: "failed"; message: string }
  | { kind: "cancelled" };

const NOTHING_YET: LogState = { kind: "loading", progress: { share: 0, frames: 0, rows: [] } };

/** Reads a stored log and its bus description in a worker, with progress; `cancel` stops it. */
export function useLog(jobId: string, logFile: string, descriptionUrl: string | null) {
  const [state, setState] = useState<LogState>(NOTHING_YET);
  const remote = useRef<Remote<LogWorker> | null>(null);
  const stop = useRef<() => void>(() => undefined);

  useEffect(() => {
    const worker = new Worker(new URL("../workers/log.worker.ts", import.meta.url), { type: "module" });
    const wrapped = wrap<LogWorker>(worker);
    remote.current = wrapped;
    let over = false;
    const end = () => {
      over = true;
      worker.terminate();
    };
    stop.current = () => {
      end();
      setState({ kind: "cancelled" });
    };
    const told = proxy((progress: Progress) => {
      if (!over) setState({ kind: "loading", progress });
    });
    setState(NOTHING_YET);
    wrapped
      .open({ file: logFile, url: `/jobs/${jobId}/files/${logFile}` }, descriptionUrl, USUAL_BITS_PER_S, told)
      .then((summary) => {
        if (!over) setState({ kind: "ready", summary });
      })
      .catch((error: Error) => {
        if (!over) setState({ kind: "failed", message: error.message });
      });
    return end;
  }, [jobId, logFile, descriptionUrl]);

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
