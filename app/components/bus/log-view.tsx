import { lazy, Suspense, useEffect, useState } from "react";
import { useLog } from "~/app/lib/use-log";
import type { DrawnSeries, IdRow, LogSummary } from "~/app/workers/log.worker";
import type { LineProblem } from "~/core/bus/errors";
import { Button, Section } from "../controls";
import { useJob } from "../entry-form";
import { Notice } from "../marks";
import { IdTable } from "./id-table";

const SignalChart = lazy(() => import("./signal-chart"));

interface File {
  file: string;
  name: string;
}

/** A stored log: what is on the bus, and signals over time. */
export function LogView({ log, dbc }: { log: File; dbc: File | null }) {
  const { job } = useJob();
  const { state, cancel, series } = useLog(job.id, log.file, dbc?.file ?? null);
  if (state.kind === "loading") {
    return (
      <Section title={log.name} id="log">
        <div className="flex flex-wrap items-center gap-3" aria-live="polite">
          <span>{state.what} ...</span>
          <progress value={state.share} max={1} className="w-60" aria-label={state.what} />
          <Button onClick={cancel}>Cancel</Button>
        </div>
      </Section>
    );
  }
  if (state.kind === "cancelled") return <Notice tone="watch" title="Stopped. Load the page again to read the log." />;
  if (state.kind === "failed") return <Notice tone="stop" title={state.message} />;
  return <Summary summary={state.summary} log={log} dbc={dbc} series={series} />;
}

function Summary({
  summary,
  log,
  dbc,
  series,
}: {
  summary: LogSummary;
  log: File;
  dbc: File | null;
  series(message: string, signal: string): Promise<DrawnSeries | null>;
}) {
  // A message that is heard on two buses is offered once.
  const drawable = summary.rows.filter(
    (r, i, all) => r.name !== null && r.signals.length > 0 && all.findIndex((o) => o.name === r.name) === i,
  );
  const [picked, setPicked] = useState<string[]>(() => firstSignals(drawable));
  return (
    <>
      <Section
        title={`${log.name}: what is on the bus`}
        id="log"
        aside={`${summary.frames.toLocaleString("en")} frames in ${summary.durationS.toFixed(1)} s, bus load at 500 kbit/s at most ${loadWords(summary.loads)}`}
      >
        <Problems problems={summary.problems} total={summary.badLines} what="lines of the log" />
        <Problems problems={summary.dbcProblems} total={summary.dbcProblems.length} what="lines of the DBC" />
        <IdTable rows={summary.rows} />
      </Section>
      <Section title="Signals" id="signals" aside={dbc ? `Decoded with ${dbc.name}` : undefined}>
        {drawable.length === 0 ? (
          <p>Upload a DBC that names these identifiers; then the signals can be drawn.</p>
        ) : (
          <div className="grid gap-6 md:grid-cols-[15rem_minmax(0,1fr)]">
            <SignalPicker rows={drawable} picked={picked} onChange={setPicked} />
            <Chart picked={picked} series={series} />
          </div>
        )}
      </Section>
    </>
  );
}

/** “12.1 %”, and with several buses “can0 12.1 %, can1 3.0 %”. */
function loadWords(loads: LogSummary["loads"]): string {
  return loads
    .map(({ channel, load }) => `${loads.length > 1 ? `${channel} ` : ""}${(100 * load).toFixed(1)} %`)
    .join(", ");
}

/** The signals a technician asks for first: those that change with what one does. */
function firstSignals(rows: readonly IdRow[]): string[] {
  const wanted = ["Selector/Position", "WheelKeys/KeyCode"];
  const all = rows.flatMap((r) => r.signals.map((s) => `${r.name}/${s}`));
  const found = wanted.filter((w) => all.includes(w));
  return found.length > 0 ? found : all.slice(0, 1);
}

function SignalPicker({ rows, picked, onChange }: { rows: IdRow[]; picked: string[]; onChange(next: string[]): void }) {
  return (
    <fieldset className="max-h-[26rem] overflow-y-auto">
      <legend className="font-medium">Draw</legend>
      {rows.flatMap((r) =>
        r.signals.map((s) => {
          const key = `${r.name}/${s}`;
          return (
            <label key={key} className="flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="size-5 accent-[var(--ink)]"
                checked={picked.includes(key)}
                onChange={(e) => onChange(e.currentTarget.checked ? [...picked, key] : picked.filter((p) => p !== key))}
              />
              <span>
                {s} <span className="block text-xs text-quiet">{r.name}</span>
              </span>
            </label>
          );
        }),
      )}
    </fieldset>
  );
}

function Chart({
  picked,
  series,
}: {
  picked: string[];
  series(message: string, signal: string): Promise<DrawnSeries | null>;
}) {
  const [drawn, setDrawn] = useState<DrawnSeries[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `series` talks to the same worker for the life of this view
  useEffect(() => {
    let stale = false;
    Promise.all(picked.map((p) => series(...(p.split("/") as [string, string])))).then((all) => {
      if (!stale) setDrawn(all.filter((s) => s !== null));
    });
    return () => {
      stale = true;
    };
  }, [picked]);
  if (picked.length === 0) return <p className="text-quiet">Tick a signal to draw it.</p>;
  return (
    <Suspense fallback={<p className="text-quiet">Loading the chart ...</p>}>
      <SignalChart series={drawn} />
    </Suspense>
  );
}

function Problems({ problems, total, what }: { problems: LineProblem[]; total: number; what: string }) {
  if (total === 0) return null;
  return (
    <div className="mb-3">
      <Notice tone="watch" title={`${total.toLocaleString("en")} ${what} could not be read; all others are used.`}>
        <details>
          <summary className="min-h-11 cursor-pointer py-2">Show where</summary>
          <ul className="max-h-60 overflow-y-auto text-sm">
            {problems.map((p) => (
              <li key={p.line}>
                <span className="num">Line {p.line}</span>: {p.problem}.{" "}
                <span className="num text-quiet">{p.text}</span>
              </li>
            ))}
          </ul>
        </details>
      </Notice>
    </div>
  );
}
