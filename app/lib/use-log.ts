import { proxy, type Remote, transfer, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { DrawnSeries, LogSummary, LogWorker } from "~/app/workers/log.worker";
import { dbcText } from "~/core/bus/dbc";

export type LogState =
  | { kind: "loading"; share: number; what: string }
  | { kind: "ready"; summary: LogSummary }
  | { kind: "failed"; message: string }
  | { kind: "cancelled" };

/** Fetches a stored log and its DBC and reads them in a worker, with progress; `cancel` stops both. */
export function useLog(jobId: string, logFile: string, dbcFile: string | null) {
  const [state, setState] = useState<LogState>({ kind: "loading", share: 0, what: "Loading" });
  const remote = useRef<Remote<LogWorker> | null>(null);
  const stop = useRef<() => void>(() => undefined);

  useEffect(() => {
    const worker = new Worker(new URL("../workers/log.worker.ts", import.meta.url), { type: "module" });
    const wrapped = wrap<LogWorker>(worker);
    remote.current = wrapped;
    const abort = new AbortController();
    const end = () => {
      abort.abort();
      worker.terminate();
    };
    stop.current = () => {
      end();
      setState({ kind: "cancelled" });
    };
    const work = async () => {
      const log = await load(`/jobs/${jobId}/files/${logFile}`, abort.signal, (share) =>
        setState({ kind: "loading", share, what: "Loading" }),
      );
      const dbc = dbcFile
        ? dbcText(await load(`/jobs/${jobId}/files/${dbcFile}`, abort.signal, () => undefined))
        : null;
      const summary = await wrapped.open(
        transfer(log, [log.buffer]),
        dbc,
        proxy((share: number) => setState({ kind: "loading", share, what: "Reading" })),
      );
      setState(
        summary
          ? { kind: "ready", summary }
          : { kind: "failed", message: "This file is neither a candump nor an ASC log." },
      );
    };
    work().catch((error: Error) => {
      if (!abort.signal.aborted) setState({ kind: "failed", message: error.message });
    });
    return end;
  }, [jobId, logFile, dbcFile]);

  return {
    state,
    cancel: () => stop.current(),
    series: (message: string, signal: string): Promise<DrawnSeries | null> =>
      remote.current?.series(message, signal) ?? Promise.resolve(null),
  };
}

async function load(url: string, signal: AbortSignal, progress: (share: number) => void): Promise<Uint8Array> {
  const answer = await fetch(url, { signal });
  if (!answer.ok || !answer.body)
    throw new Error(
      "The file is not stored in this shop. Imported jobs bring their log entries but not their bus files.",
    );
  const total = Number(answer.headers.get("X-File-Bytes") ?? 0);
  const pieces: Uint8Array[] = [];
  let got = 0;
  const reader = answer.body.getReader();
  for (let piece = await reader.read(); !piece.done; piece = await reader.read()) {
    pieces.push(piece.value);
    got += piece.value.length;
    if (total > 0) progress(got / total);
  }
  const whole = new Uint8Array(got);
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}
