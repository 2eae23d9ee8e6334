import { useState } from "react";
import { type Proposal, readLeafletText, withProposals } from "~/core/library/leaflet-text";
import { Button } from "../controls";

/** The text of a leaflet pasted in: what it seems to say is shown with its line, and only what is ticked is taken. */
export function LeafletPaste({
  fields,
  leaflet,
  onTake,
}: {
  /** Fields that the leaflet at hand has. */
  fields: readonly string[];
  leaflet: Record<string, unknown>;
  onTake: (next: Record<string, unknown>) => void;
}) {
  const [text, setText] = useState("");
  const [refused, setRefused] = useState<ReadonlySet<string>>(new Set());
  const found = readLeafletText(text, new Set(fields));
  const name = (p: Proposal) => `${p.line} ${p.say}`;
  const taken = found.filter((p) => !refused.has(name(p)));
  return (
    <details className="mb-4 border-y border-rule">
      <summary className="flex min-h-11 cursor-pointer items-center font-medium">Paste the text of a leaflet</summary>
      <div className="pb-4">
        <textarea
          aria-label="Text of the leaflet"
          className="field"
          rows={5}
          value={text}
          placeholder="Copied from the leaflet: plugs, switch table, wire colours, what is in the box"
          onChange={(e) => setText(e.currentTarget.value)}
        />
        {text.trim() !== "" && found.length === 0 && (
          <p className="mt-2 text-quiet">Nothing in it is understood. Enter it in the fields below.</p>
        )}
        <ul aria-label="Found in the text" className="mt-2">
          {found.map((p) => (
            <li key={name(p)} className="border-b border-rule">
              <label className="flex min-h-11 cursor-pointer items-center gap-3 py-1">
                <input
                  type="checkbox"
                  className="size-5 shrink-0 accent-[var(--ink)]"
                  checked={!refused.has(name(p))}
                  onChange={(e) => {
                    const next = new Set(refused);
                    if (e.currentTarget.checked) next.delete(name(p));
                    else next.add(name(p));
                    setRefused(next);
                  }}
                />
                <span className="min-w-0">
                  {p.say}
                  <span className="block truncate text-sm text-quiet">
                    line <span className="num">{p.line}</span>: {p.text}
                  </span>
                </span>
              </label>
            </li>
          ))}
        </ul>
        {found.length > 0 && (
          <Button
            className="mt-3"
            disabled={taken.length === 0}
            onClick={() => {
              onTake(withProposals(leaflet, taken));
              setText("");
            }}
          >
            Take over {taken.length} of {found.length}
          </Button>
        )}
      </div>
    </details>
  );
}
