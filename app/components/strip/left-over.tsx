import { useState } from "react";
import { type OutGroup, whereItBelongs } from "~/core/strip/left-over";
import { Focus } from "../bench/focus";
import { Field } from "../controls";

/** “Found one left over”: kind and length in, places where it could belong out. */
export function LeftOver({ out }: { out: OutGroup[] }) {
  const [kind, setKind] = useState("");
  const [length, setLength] = useState("");
  const lengthMm = Number(length.replace(",", "."));
  const wrong = length !== "" && !(lengthMm > 0 && lengthMm <= 500);
  if (out.length === 0) return null;
  const kinds = [...new Set(out.map((g) => g.kind))];
  const found = wrong ? [] : whereItBelongs(out, { kind, lengthMm: length === "" ? null : lengthMm });
  return (
    <Focus kicker="A screw or clip in the hand" title="Found one left over?">
      <div className="grid grid-cols-[minmax(0,1fr)_7rem] items-start gap-3">
        <Field label="Kind">
          {(ids) => (
            <select {...ids} className="field mt-1" value={kind} onChange={(e) => setKind(e.currentTarget.value)}>
              <option value="">Any</option>
              {kinds.map((k) => (
                <option key={k}>{k}</option>
              ))}
            </select>
          )}
        </Field>
        <Field label="Length, mm" {...(wrong ? { errors: ["A number such as 16 or 16,5."] } : {})}>
          {(ids) => (
            <input
              {...ids}
              className="field num mt-1"
              inputMode="decimal"
              value={length}
              onChange={(e) => setLength(e.currentTarget.value)}
            />
          )}
        </Field>
      </div>
      {(kind !== "" || length !== "") && !wrong && (
        <ol className="mt-3 space-y-2">
          {found.map((b) => (
            <li key={`${b.step}-${b.group}`} className="grid grid-cols-[3.5rem_minmax(0,1fr)] gap-x-2">
              <span className="num pt-0.5 text-right font-medium">{Math.round(b.likely * 100)} %</span>
              <span>
                <span className="font-medium">{b.title}</span>: {b.fastener}
                <span className="block text-sm text-quiet">
                  {b.reasons.join("; ")}
                  {b.minutes > 0 && `; about ${Math.round(b.minutes)} min to look`}
                </span>
              </span>
            </li>
          ))}
          {found.length === 0 && (
            <li className="text-quiet">No group of this job fits. Look under the seat rails and in the carpet edge.</li>
          )}
        </ol>
      )}
    </Focus>
  );
}
