import { useState } from "react";
import { readMakerTable, type TableRow } from "~/core/configure/maker-table";
import { allOf } from "~/core/model/labels";
import { Field } from "../controls";
import type { Bank } from "./bank-focus";

const WORDS: Readonly<Record<Exclude<TableRow["verdict"], "gap">, string>> = {
  agrees: "agrees",
  contradicts: "contradicts what was found",
  free: "differs, but nothing depends on it",
  unknown: "cannot be judged yet",
};

/** A row of the maker's table, typed or pasted, held against the solution while it is typed. */
export function MakerTable({ bank, solution }: Pick<Bank, "bank" | "solution">) {
  const [text, setText] = useState("");
  const read = text.trim() === "" ? null : readMakerTable(text, bank, solution);
  const odd = read?.rows.filter((r) => r.verdict !== "agrees" && r.verdict !== "gap") ?? [];
  const gaps = read?.rows.filter((r) => r.verdict === "gap").map((r) => String(r.number)) ?? [];
  return (
    <details className="pt-2">
      <summary className="min-h-11 cursor-pointer py-2.5">Compare with the maker's table</summary>
      <Field label="The row for this car" hint="for example 1 on, 2 off, or ON OFF ON">
        {(ids) => (
          <textarea
            {...ids}
            rows={2}
            className="field num mt-1"
            value={text}
            onChange={(e) => setText(e.target.value)}
          />
        )}
      </Field>
      {read && (
        <div role="status" className="mt-2">
          {odd.length === 0 && gaps.length < read.rows.length && (
            <p className="font-medium">It agrees in every switch{gaps.length > 0 && " of which it says something"}.</p>
          )}
          <ul>
            {odd.map((r) => (
              <li key={r.number} className={r.verdict === "contradicts" ? "text-stop" : ""}>
                Switch {r.number}: the table {r.table ? `says ${r.table}, it ` : ""}
                {r.verdict !== "gap" && WORDS[r.verdict]}
                {r.breaks.length > 0 && `; it would break ${r.breaks.join(", ")}`}.
              </li>
            ))}
          </ul>
          {gaps.length > 0 && <p>It says nothing of {allOf(gaps)}.</p>}
          {read.unread.length > 0 && <p className="text-watch">Not read: {read.unread.join(", ")}.</p>}
        </div>
      )}
    </details>
  );
}
