import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { DescribedSignal, DescriptionWorker } from "~/app/workers/description.worker";
import type { FoundSignal } from "~/core/bus/hunt/found";
import { idText } from "~/core/bus/identifier";
import { EntryButton, useJob } from "../../entry-form";
import { Mark, Notice } from "../../marks";
import type { BusFile } from "../log-focus";

/** Takes signals of the job's bus description over, so that a translation can use them. */
export function DescribedSignals({ dbc, known }: { dbc: BusFile; known: readonly FoundSignal[] }) {
  const { job } = useJob();
  const [text, setText] = useState("");
  const [hits, setHits] = useState<{ found: DescribedSignal[]; of: number } | string | null>(null);
  const remote = useRef<Remote<DescriptionWorker> | null>(null);
  useEffect(() => {
    const worker = new Worker(new URL("../../../workers/description.worker.ts", import.meta.url), { type: "module" });
    remote.current = wrap<DescriptionWorker>(worker);
    return () => worker.terminate();
  }, []);
  useEffect(() => {
    let over = false;
    remote.current?.search(`/jobs/${job.id}/files/${dbc.file}`, dbc.file, text).then(
      (found) => {
        if (!over) setHits(found);
      },
      (error: Error) => {
        if (!over) setHits(error.message);
      },
    );
    return () => {
      over = true;
    };
  }, [job.id, dbc.file, text]);
  if (typeof hits === "string") return <Notice tone="stop" title={hits} />;
  return (
    <div className="max-w-4xl">
      <label className="block">
        <span className="block text-sm text-quiet">Signals of {dbc.name}: name, message, unit or value</span>
        <input className="field" value={text} maxLength={60} onChange={(e) => setText(e.currentTarget.value)} />
      </label>
      {!hits && <p className="py-3 text-quiet">Reading {dbc.name} ...</p>}
      {hits && (
        <>
          <ul className="mt-2">
            {hits.found.map(({ message, signal, taken }) => (
              <li
                key={`${message} ${signal}`}
                className="flex flex-wrap items-center justify-between gap-x-4 border-b border-rule py-1.5"
              >
                <span>
                  <span className="font-medium">{signal}</span> <span className="text-quiet">in {message}</span>{" "}
                  {typeof taken !== "string" && (
                    <span className="num text-sm text-quiet">{idText(taken.id, taken.extended)}</span>
                  )}
                </span>
                {typeof taken === "string" ? (
                  <span className="text-sm text-quiet">Cannot be taken: {taken}</span>
                ) : known.some((k) => k.signal === signal && k.message === message) ? (
                  <Mark tone="good">taken</Mark>
                ) : (
                  <EntryButton body={{ kind: "bus.signal", data: taken }}>Take {signal}</EntryButton>
                )}
              </li>
            ))}
          </ul>
          <p className="mt-2 text-sm text-quiet">
            {hits.of === 0
              ? "No signal is called so."
              : hits.of > hits.found.length
                ? `${hits.found.length} of ${hits.of}; type more of the name.`
                : hits.of === 1
                  ? "1 signal."
                  : `${hits.of} signals.`}
          </p>
        </>
      )}
    </div>
  );
}
