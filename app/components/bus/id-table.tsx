import { ArrowDown, ArrowUp } from "lucide";
import { memo, useEffect, useState } from "react";
import type { IdRow } from "~/app/lib/use-log";
import { idText } from "~/core/bus/identifier";
import type { Oddity } from "~/core/bus/statistics";
import { ScrollX } from "../controls";
import { Icon } from "../icon";
import { BitLegend, BitStrip, protectionWords } from "./bit-strip";

const COLUMNS = [
  ["channel", "Bus"],
  ["id", "Identifier"],
  ["name", "Message"],
  ["count", "Frames"],
  ["cycleMs", "Cycle, ms"],
  ["jitterMs", "Jitter, ms"],
  ["length", "Bytes"],
  ["bits", "Bits that change"],
] as const;
const LEFT: readonly string[] = ["channel", "id", "name", "bits"];
type Column = (typeof COLUMNS)[number][0];

/** Rows that are added at once; more would hold up the page. */
const ROWS_AT_ONCE = 25;

/** How many of a list are shown: a few more with every picture, so that a long one never holds up the page. */
function useGrowing(all: number): number {
  const [shown, setShown] = useState(ROWS_AT_ONCE);
  useEffect(() => {
    if (shown >= all) return;
    const next = requestAnimationFrame(() => setShown(shown + ROWS_AT_ONCE));
    return () => cancelAnimationFrame(next);
  }, [shown, all]);
  return shown;
}

/** Every identifier of the log with its rhythm; a press on a heading sorts. */
export function IdTable({ rows, startS }: { rows: IdRow[]; startS: number }) {
  const [by, setBy] = useState<{ column: Column; down: boolean }>({ column: "id", down: false });
  const buses = new Set(rows.map((r) => r.channel)).size;
  const columns = COLUMNS.filter(([column]) => column !== "channel" || buses > 1);
  const shown = useGrowing(rows.length);
  const sorted = [...rows].sort((a, b) => (by.down ? -1 : 1) * compare(sortKey(a, by.column), sortKey(b, by.column)));
  return (
    <>
      <BitLegend />
      <ScrollX label="Identifiers on the bus" className="max-h-[30rem] overflow-y-auto">
        <table className="w-full min-w-[58rem]">
          <thead className="sticky top-0 bg-paper">
            <tr className="border-b border-strong text-left">
              {columns.map(([column, title]) => (
                <th
                  key={column}
                  scope="col"
                  aria-sort={by.column === column ? (by.down ? "descending" : "ascending") : "none"}
                  className={`font-medium ${LEFT.includes(column) ? "" : "text-right"}`}
                >
                  <button
                    type="button"
                    className="inline-flex min-h-11 items-center gap-1 pr-3 text-sm"
                    onClick={() => setBy({ column, down: by.column === column && !by.down })}
                  >
                    {title}
                    {by.column === column &&
                      (by.down ? <Icon of={ArrowDown} size={14} /> : <Icon of={ArrowUp} size={14} />)}
                  </button>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sorted.slice(0, shown).map((r) => (
              <Row key={r.key} row={r} startS={startS} buses={buses} />
            ))}
          </tbody>
        </table>
      </ScrollX>
    </>
  );
}

/** One identifier. Kept as it is while the table grows. */
const Row = memo(function Row({ row: r, startS, buses }: { row: IdRow; startS: number; buses: number }) {
  return (
    <tr className="num border-b border-rule">
      {buses > 1 && <td className="py-1.5 pr-3">{r.channel}</td>}
      <td className="py-1.5 pr-3 font-medium">{idText(r.id, r.extended)}</td>
      <td className="py-1.5 pr-3 font-sans">
        {r.name ?? <span className="text-quiet">not named</span>}
        {r.oddities.map((o) => (
          <span key={o.kind} className="block text-xs text-watch">
            {oddityWords(o, startS)}
          </span>
        ))}
      </td>
      <td className="py-1.5 pr-3 text-right">{r.count}</td>
      <td className="py-1.5 pr-3 text-right">
        {ms(r.cycleMs)}
        {!r.steady && r.count > 4 && <span className="block font-sans text-xs text-quiet">on event</span>}
      </td>
      <td className="py-1.5 pr-3 text-right">{ms(r.jitterMs)}</td>
      <td className="py-1.5 pr-3 text-right">{r.lengths.join(", ")}</td>
      <td className="py-1.5 pr-3">
        <BitStrip bits={r.bits} protections={r.protections} />
        {r.protections.map((p) => (
          <span key={protectionWords(p)} className="block font-sans text-xs text-quiet">
            {protectionWords(p)}
          </span>
        ))}
      </td>
    </tr>
  );
});

function oddityWords(o: Oddity, startS: number): string {
  switch (o.kind) {
    case "stopped":
      return `silent from ${(o.atS - startS).toFixed(1)} s on`;
    case "began":
      return `not before ${(o.atS - startS).toFixed(1)} s`;
    case "babbling":
      return `${Math.round(o.perS)} frames a second: more than a message should`;
    case "late":
      return `${o.count === 1 ? "1 gap" : `${o.count} gaps`} too long, up to ${o.longestMs.toFixed(0)} ms`;
    case "lengths":
      return `of ${o.lengths.join(" and ")} bytes`;
  }
}

/** Short identifiers stand before long ones. */
function sortKey(row: IdRow, column: Column): string | number | null {
  if (column === "id") return row.id + (row.extended ? 2 ** 32 : 0);
  if (column === "length") return Math.max(...row.lengths);
  if (column === "bits") return row.bits.filter((b) => b > 0).length;
  return row[column];
}

function compare(a: string | number | null, b: string | number | null): number {
  if (typeof a === "number" && typeof b === "number") return a - b;
  return String(a ?? "").localeCompare(String(b ?? ""));
}

function ms(value: number): string {
  return Number.isNaN(value) ? "once" : value.toFixed(1);
}
