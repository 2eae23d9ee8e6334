/** The small fields of which a condition is put together. */
import { type ReactNode, useId } from "react";
import type { Json } from "./json-schema";

/** Fields of the situation that are numbers. */
export const isNumber = (field: string) => field === "speedKmh" || field === "heldS";

export function OneOf({ values, onChange }: { values: readonly string[]; onChange: (values: string[]) => void }) {
  const read = (text: string) =>
    text
      .split(",")
      .map((t) => t.trim())
      .filter(Boolean);
  return <Words label="is one of, with commas" value={values.join(", ")} onChange={(text) => onChange(read(text))} />;
}

export function Bounds({ of, onChange }: { of: Record<string, Json>; onChange: (value: Json) => void }) {
  const side = "atLeast" in of ? "atLeast" : "atMost";
  const number = of[side] ?? 0;
  // What is no number stays as it was typed: the check names it.
  const read = (text: string) => {
    const typed = Number(text.trim().replace(",", "."));
    return text.trim() === "" || !Number.isFinite(typed) ? text : typed;
  };
  return (
    <>
      <Menu
        label="is"
        value={side}
        options={[
          ["atMost", "at most"],
          ["atLeast", "at least"],
        ]}
        onChange={(s) => onChange({ situation: of.situation, [s]: number })}
      />
      <Words
        label="Number"
        value={String(number)}
        onChange={(text) => onChange({ situation: of.situation, [side]: read(text) })}
      />
    </>
  );
}

/** A control with its name above it. */
function Labelled({ label, children }: { label: string; children: (id: string) => ReactNode }) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-sm text-quiet">
        {label}
      </label>
      {children(id)}
    </div>
  );
}

export function Menu({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: readonly (readonly [string, string])[];
  onChange: (value: string) => void;
}) {
  return (
    <Labelled label={label}>
      {(id) => (
        <select id={id} className="field mt-1 w-auto!" value={value} onChange={(e) => onChange(e.currentTarget.value)}>
          {!options.some(([o]) => o === value) && <option value={value}>{value || "choose"}</option>}
          {options.map(([o, word]) => (
            <option key={o} value={o}>
              {word}
            </option>
          ))}
        </select>
      )}
    </Labelled>
  );
}

export function Words({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  return (
    <Labelled label={label}>
      {(id) => (
        <input id={id} className="field mt-1" defaultValue={value} onBlur={(e) => onChange(e.currentTarget.value)} />
      )}
    </Labelled>
  );
}

export function Among({
  options,
  chosen,
  onChange,
}: {
  options: readonly (readonly [string, string])[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}) {
  return (
    <fieldset className="flex flex-wrap gap-x-4">
      <legend className="text-sm text-quiet">is</legend>
      {options.map(([o, word]) => (
        <label key={o} className="flex min-h-11 items-center gap-2">
          <input
            type="checkbox"
            className="size-5 shrink-0 accent-[var(--ink)]"
            checked={chosen.includes(o)}
            onChange={(e) => onChange(e.currentTarget.checked ? [...chosen, o] : chosen.filter((x) => x !== o))}
          />
          {word}
        </label>
      ))}
    </fieldset>
  );
}
