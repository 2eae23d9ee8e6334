import { ArrowDown, ArrowUp } from "lucide-react";
import { useState } from "react";
import type { IdRow } from "~/app/workers/log.worker";
import { ScrollX } from "../controls";

const COLUMNS = [
  ["channel", "Bus"],
  ["id", "Identifier"],
  ["name", "Message"],
  ["count", "Frames"],
  ["cycleMs", "Cycle, ms"],
  ["jitterMs", "Jitter, ms"],
  ["length", "Bytes"],
] as const;
type Column = (typeof COLUMNS)[number][0];

/** Every identifier of the log with its rhythm; a press on a heading sorts. */
export function IdTable({ rows }: { rows: IdRow[] }) {
  const [by, setBy] = useState<{ column: Column; down: boolean }>({ column: "id", down: false });
  const buses = new Set(rows.map((r) => r.channel)).size;
  const columns = COLUMNS.filter(([column]) => column !== "channel" || buses > 1);
  const sorted = [...rows].sort((a, b) => (by.down ? -1 : 1) * compare(sortKey(a, by.column), sortKey(b, by.column)));
  return (
    <ScrollX label="Identifiers on the bus" className="max-h-[26rem] overflow-y-auto">
      <table className="w-full min-w-[36rem]">
        <thead className="sticky top-0 bg-paper">
          <tr className="border-b border-strong text-left">
            {columns.map(([column, title]) => (
              <th
                key={column}
                scope="col"
                aria-sort={by.column === column ? (by.down ? "descending" : "ascending") : "none"}
                className={`font-medium ${["channel", "id", "name"].includes(column) ? "" : "text-right"}`}
              >
                <button
                  type="button"
                  className="inline-flex min-h-11 items-center gap-1 pr-3 text-sm"
                  onClick={() => setBy({ column, down: by.column === column && !by.down })}
                >
                  {title}
                  {by.column === column &&
                    (by.down ? <ArrowDown size={14} aria-hidden="true" /> : <ArrowUp size={14} aria-hidden="true" />)}
                </button>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {sorted.map((r) => (
            <tr key={r.key} className="num border-b border-rule">
              {buses > 1 && <td className="py-1.5 pr-3">{r.channel}</td>}
              <td className="py-1.5 pr-3 font-medium">{r.id}</td>
              <td className="py-1.5 pr-3 font-sans">{r.name ?? <span className="text-quiet">not named</span>}</td>
              <td className="py-1.5 pr-3 text-right">{r.count}</td>
              <td className="py-1.5 pr-3 text-right">{ms(r.cycleMs)}</td>
              <td className="py-1.5 pr-3 text-right">{ms(r.jitterMs)}</td>
              <td className="py-1.5 pr-3 text-right">{r.length}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </ScrollX>
  );
}

/** Short identifiers stand before long ones. */
function sortKey(row: IdRow, column: Column): string | number | null {
  return column === "id" ? row.id.padStart(8, " ") : row[column];
}

function compare(a: string | number | null, b: string | number | null): number {
  if (typeof a === "number" && typeof b === "number") return a - b;
  return String(a ?? "").localeCompare(String(b ?? ""));
}

function ms(value: number): string {
  return Number.isNaN(value) ? "once" : value.toFixed(1);
}
