import { useId, useState } from "react";
import type { CodedUnit } from "~/core/coding/map";
import { withMapText } from "~/core/coding/map-merge";
import { readMapText } from "~/core/coding/map-text";
import { Button } from "../controls";

const SHOWN = 12;

function counted(n: number, what: string): string {
  return `${n} ${what}${n === 1 ? "" : "s"}`;
}

/** Control units, words and fields from a table or the text of a leaflet; what cannot be read is named by its line. */
export function MapPaste({ units, onRead }: { units: readonly CodedUnit[]; onRead: (units: CodedUnit[]) => void }) {
  const [text, setText] = useState("");
  const id = useId();
  const read = readMapText(text);
  const words = read.units.reduce((n, u) => n + u.words.length, 0);
  return (
    <details className="mb-4 border-y border-rule">
      <summary className="flex min-h-11 cursor-pointer items-center font-medium">Paste a table or a leaflet</summary>
      <div className="pb-4">
        <label htmlFor={id} className="text-sm text-quiet">
          A table with the columns of “Table (CSV)”, or lines such as: Radio, 773, 7DD; Word 0600 Sound, 8 bytes; Byte 3
          bit 5: Tweeters watched, 0 no, 1 yes.
        </label>
        <textarea
          id={id}
          rows={8}
          className="field num mt-1 text-sm"
          value={text}
          spellCheck={false}
          onChange={(e) => setText(e.currentTarget.value)}
        />
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          aria-label="Table or leaflet as a file"
          className="mt-2 block min-h-11"
          onChange={async (e) => setText((await e.currentTarget.files?.[0]?.text()) ?? "")}
        />
        {text.trim() !== "" && (
          <div aria-live="polite" className="mt-2">
            <p>
              {counted(read.fields, "field")} in {counted(words, "word")} of{" "}
              {counted(read.units.length, "control unit")} read.
            </p>
            {read.problems.slice(0, SHOWN).map((p) => (
              <p key={p.line} className="text-stop">
                Line <span className="num">{p.line}</span>: {p.problem}
              </p>
            ))}
            {read.problems.length > SHOWN && (
              <p className="text-stop">
                and <span className="num">{read.problems.length - SHOWN}</span> lines more that are not read
              </p>
            )}
          </div>
        )}
        <Button
          className="mt-3"
          disabled={read.units.length === 0}
          onClick={() => {
            onRead(withMapText(units, read.units));
            setText("");
          }}
        >
          Take over {counted(read.fields, "field")}
        </Button>
      </div>
    </details>
  );
}
