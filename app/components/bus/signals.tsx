import { later } from "~/app/lib/later";
import type { IdRow, LogSummary } from "~/app/lib/use-log";
import { Focus } from "../bench/focus";
import type { AskSeries } from "./signal-chart";

const SignalChart = later(
  async () => (await import("./signal-chart")).SignalChart,
  <p className="text-quiet">Loading the chart ...</p>,
);

/** Asks for signals, as message/signal, on a stretch of time. */
export type AskSignals = (keys: readonly string[], ...stretch: Parameters<AskSeries>) => ReturnType<AskSeries>;

/** Messages whose signals can be drawn; one that is heard on two buses is offered once. */
export function drawable(rows: readonly IdRow[]): IdRow[] {
  return rows.filter(
    (r, i, all) => r.name !== null && r.signals.length > 0 && all.findIndex((o) => o.name === r.name) === i,
  );
}

/** The signals that a bus description names, drawn over time as they are ticked. */
export function Signals({
  summary,
  description,
  picked,
  onPick,
  series,
}: {
  summary: LogSummary;
  /** Name of the bus description. */
  description: string | undefined;
  picked: readonly string[];
  onPick(next: string[]): void;
  series: AskSignals;
}) {
  const rows = drawable(summary.rows);
  return (
    <Focus
      kicker={description && `Decoded with ${description}`}
      title="Signals over time"
      picture={
        rows.length > 0 && (
          <div className="grid gap-6 md:grid-cols-[15rem_minmax(0,1fr)]">
            <SignalPicker rows={rows} picked={picked} onChange={onPick} />
            {picked.length === 0 ? (
              <p className="text-quiet">Tick a signal to draw it.</p>
            ) : (
              <SignalChart
                names={picked.map((p) => p.split("/")[1] ?? p)}
                durationS={summary.durationS}
                ask={(...stretch) => series(picked, ...stretch)}
              />
            )}
          </div>
        )
      }
    >
      {rows.length === 0 && (
        <p>Upload a bus description that names these identifiers; then the signals can be drawn.</p>
      )}
    </Focus>
  );
}

/** The signals a technician asks for first: those that change with what one does. */
export function firstSignals(rows: readonly IdRow[]): string[] {
  const wanted = ["Selector/Position", "WheelKeys/KeyCode"];
  const all = rows.flatMap((r) => r.signals.map((s) => `${r.name}/${s}`));
  const found = wanted.filter((w) => all.includes(w));
  return found.length > 0 ? found : all.slice(0, 1);
}

function SignalPicker({
  rows,
  picked,
  onChange,
}: {
  rows: IdRow[];
  picked: readonly string[];
  onChange(next: string[]): void;
}) {
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
