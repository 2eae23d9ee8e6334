import { useState } from "react";
import { saveBlob } from "~/app/lib/save-text";
import type { IdRow, LogState, LogSummary } from "~/app/lib/use-log";
import type { Progress } from "~/app/workers/log/open";
import type { LineProblem } from "~/core/bus/errors";
import { idText } from "~/core/bus/identifier";
import { USUAL_BITS_PER_S } from "~/core/bus/limits";
import { LOG_FORMATS } from "~/core/bus/log";
import type { BusLoad } from "~/core/bus/statistics";
import { Focus } from "../bench/focus";
import { Button } from "../controls";
import { Notice } from "../marks";
import { IdTable } from "./id-table";

export interface BusFile {
  file: string;
  name: string;
}

/** Names of messages by identifier, as the bus description has them. */
export function namesOf(rows: readonly IdRow[]): ReadonlyMap<string, string> {
  return new Map(rows.flatMap((r) => (r.name ? [[idText(r.id, r.extended), r.name] as const] : [])));
}

/** A log that is being read, or cannot be. */
export function ReadLog({
  log: { name },
  state,
  cancel,
}: {
  log: BusFile;
  state: Exclude<LogState, { kind: "ready" }>;
  cancel(): void;
}) {
  return (
    <Focus kicker="Log" title={name}>
      {state.kind === "cancelled" && <Notice tone="watch" title="Stopped. Load the page again to read the log." />}
      {state.kind === "failed" && <Notice tone="stop" title={state.message} />}
      {state.kind === "loading" && <Reading name={name} progress={state.progress} cancel={cancel} />}
    </Focus>
  );
}

/** What is known while the log is still being read. */
function Reading({ name, progress, cancel }: { name: string; progress: Progress; cancel(): void }) {
  return (
    <>
      <div className="flex flex-wrap items-center gap-3" aria-live="polite">
        <span>Reading ... {progress.frames > 0 && <span className="num">{count(progress.frames)} frames</span>}</span>
        <progress value={progress.share} max={1} className="w-60" aria-label={`Reading ${name}`} />
        <Button onClick={cancel}>Cancel</Button>
      </div>
      {progress.rows.length > 0 && (
        <ul className="num mt-3 flex flex-wrap gap-x-6 gap-y-1 text-sm">
          {progress.rows.slice(0, 60).map((r) => (
            <li key={r.id}>
              <span className="font-medium">{r.id}</span> <span className="text-quiet">{count(r.count)}</span>
            </li>
          ))}
        </ul>
      )}
    </>
  );
}

function count(n: number): string {
  return n.toLocaleString("en");
}

/** What is on the bus: its load, and every identifier. */
export function LogFocus({
  log,
  summary,
  loads,
  write,
}: {
  log: BusFile;
  summary: LogSummary;
  loads(bitsPerS: number): Promise<BusLoad[]>;
  write(form: string): Promise<Blob | null>;
}) {
  return (
    <Focus
      kicker={`${count(summary.frames)} frames in ${summary.durationS.toFixed(1)} s`}
      title={`${log.name}: what is on the bus`}
      picture={
        <>
          <Loads first={summary.loads} ask={loads} />
          <IdTable rows={summary.rows} startS={summary.startS} />
          <SaveAs name={log.name} write={write} />
        </>
      }
    >
      <Problems problems={summary.problems} total={summary.badLines} what={`${summary.unit}s of the log`} />
      <Problems problems={summary.dbcProblems} total={summary.dbcProblems.length} what="lines of the bus description" />
      <Said summary={summary} />
    </Focus>
  );
}

/** Saves the log in one of the forms that other programs read. */
function SaveAs({ name, write }: { name: string; write(form: string): Promise<Blob | null> }) {
  const forms = LOG_FORMATS.filter((f) => f.write);
  async function save(form: string) {
    const blob = await write(form);
    const ending = forms.find((f) => f.name === form)?.endings[0] ?? "log";
    if (blob) saveBlob(blob, `${name.replace(/(\.[a-z0-9]+)?(\.gz)?$/i, "")}.${ending}`);
  }
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      <span className="text-sm text-quiet">Save this log as</span>
      {forms.map((f) => (
        <Button key={f.name} look="quiet" onClick={() => void save(f.name)}>
          .{f.endings[0]}
        </Button>
      ))}
    </div>
  );
}

/** What else has to be known of the log before its numbers are believed. */
function Said({ summary: { notes, clockJumps, errorBursts, startS } }: { summary: LogSummary }) {
  const [jump] = clockJumps.first;
  const jumps =
    jump &&
    `The clock of the log jumps ${clockJumps.count === 1 ? "once" : `${clockJumps.count} times`}, first by ${jump.byS.toFixed(1)} s at frame ${count(jump.row + 1)}. Gaps and rates across a jump are not to be believed.`;
  const bursts = errorBursts.first.map(
    (b) =>
      `${b.channel}: ${b.count} error frames from ${(b.fromS - startS).toFixed(1)} s to ${(b.toS - startS).toFixed(1)} s.`,
  );
  if (errorBursts.count > bursts.length)
    bursts.push(`${errorBursts.count - bursts.length} more stretches with error frames.`);
  const all = [...notes, ...(jumps ? [jumps] : []), ...bursts];
  if (all.length === 0) return null;
  return (
    <ul className="mb-3 text-sm">
      {all.map((line) => (
        <li key={line}>{line}</li>
      ))}
    </ul>
  );
}

const BIT_RATES = [50, 100, 125, 250, 500, 1000] as const;

/** How busy each bus is, at the rate that the person says. */
function Loads({ first, ask }: { first: readonly BusLoad[]; ask(bitsPerS: number): Promise<BusLoad[]> }) {
  const [kbit, setKbit] = useState(USUAL_BITS_PER_S / 1000);
  const [loads, setLoads] = useState(first);
  return (
    <div className="mb-4 flex flex-wrap items-end gap-x-8 gap-y-2">
      <label className="block">
        <span className="block text-sm text-quiet">Bit rate</span>
        <select
          className="field w-auto!"
          value={kbit}
          onChange={(e) => {
            const next = Number(e.currentTarget.value);
            setKbit(next);
            void ask(next * 1000).then(setLoads);
          }}
        >
          {BIT_RATES.map((r) => (
            <option key={r} value={r}>
              {r} kbit/s
            </option>
          ))}
        </select>
      </label>
      {loads.map((l) => (
        <p key={l.channel}>
          <span className="block text-sm text-quiet">Load of {l.channel}</span>
          <span className="num text-lg font-medium">{percent(l.load)}</span>{" "}
          <span className="num text-sm text-quiet">
            busiest second {percent(l.peak)}; with every stuff bit {percent(l.worst)}
            {l.requests > 0 && `, ${count(l.requests)} requests`}
            {l.errors > 0 && `, ${count(l.errors)} error frames`}
          </span>
          {l.load > 1 && (
            <span className="block text-sm text-stop">More than the bus can carry: the rate is wrong.</span>
          )}
        </p>
      ))}
    </div>
  );
}

function percent(share: number): string {
  return `${(100 * share).toFixed(1)} %`;
}

function Problems({ problems, total, what }: { problems: LineProblem[]; total: number; what: string }) {
  if (total === 0) return null;
  return (
    <div className="mb-3">
      <Notice tone="watch" title={`${count(total)} ${what} could not be read; all others are used.`}>
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
