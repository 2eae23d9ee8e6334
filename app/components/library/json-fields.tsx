import { useContext, useId, useState } from "react";
import { DocumentContext } from "./condition-field";
import { type FieldProps, optionLabel, resolve } from "./json-schema";
import { type NamedPlace, placesIn } from "./places-in";

export function Text({ schema, value, onChange, label, path }: FieldProps) {
  const id = useId();
  const number = schema.type !== "string";
  const places = placesIn(useContext(DocumentContext), path, schema.pattern);
  // Decided once: a field that changes its shape while it is written in loses the cursor.
  const [long] = useState(!number && (schema.maxLength ?? 0) > 200 && String(value ?? "").length > 60);
  // A number half typed (“1.”) stays as it stands on the screen while it already counts as one.
  const [typed, setTyped] = useState("");
  const stored = value === undefined || value === null ? "" : String(value);
  const common = {
    id,
    "data-path": path,
    className: `field mt-1 ${number ? "num" : ""}`,
    value: number && typed !== "" && numberOf(typed) === value ? typed : stored,
  };
  const changed = (text: string) => {
    setTyped(text);
    if (!number) onChange(text);
    else onChange(text.trim() === "" ? undefined : numberOf(text));
  };
  return (
    <div>
      <label htmlFor={id} className="block font-medium">
        {label}
      </label>
      {long ? (
        <textarea {...common} rows={2} onChange={(e) => changed(e.currentTarget.value)} />
      ) : (
        <input
          {...common}
          inputMode={number ? "decimal" : undefined}
          list={places.length > 0 ? `${id}-places` : undefined}
          onChange={(e) => changed(e.currentTarget.value)}
        />
      )}
      {places.length > 0 && <Places id={`${id}-places`} places={places} named={stored} />}
    </div>
  );
}

/** Places to choose from while one is typed, and what the one that stands there is called. */
function Places({ id, places, named }: { id: string; places: readonly NamedPlace[]; named: string }) {
  const now = places.find((p) => p.value === named);
  return (
    <>
      <datalist id={id}>
        {places.map((p) => (
          <option key={p.value} value={p.value}>
            {p.words}
          </option>
        ))}
      </datalist>
      {now && <p className="text-sm text-quiet">{now.words}</p>}
    </>
  );
}

/** A number as it is typed, decimal comma or point; text that is none stays text, so that the check can name it. */
function numberOf(text: string): number | string {
  const number = Number(text.trim().replace(",", "."));
  return Number.isFinite(number) ? number : text;
}

export function Choice({ schema, value, onChange, label, path }: FieldProps) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block font-medium">
        {label}
      </label>
      <select
        id={id}
        data-path={path}
        className="field mt-1"
        value={String(value ?? "")}
        onChange={(e) => onChange(e.currentTarget.value === "" ? undefined : e.currentTarget.value)}
      >
        <option value="">–</option>
        {schema.enum?.map((o) => (
          <option key={String(o)} value={String(o)}>
            {optionLabel(o)}
          </option>
        ))}
      </select>
    </div>
  );
}

export function Several({ schema, value, onChange, label }: FieldProps) {
  const chosen = Array.isArray(value) ? value : [];
  return (
    <fieldset>
      <legend className="font-medium">{label}</legend>
      <div className="flex flex-wrap gap-x-5">
        {schema.enum?.map((o) => (
          <label key={String(o)} className="flex min-h-11 items-center gap-2">
            <input
              type="checkbox"
              className="size-5 shrink-0 accent-[var(--ink)]"
              checked={chosen.includes(o)}
              onChange={(e) => onChange(e.currentTarget.checked ? [...chosen, o] : chosen.filter((x) => x !== o))}
            />
            {optionLabel(o)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

export function Flag({ value, onChange, label, path }: FieldProps) {
  return (
    <label className="flex min-h-11 items-center gap-3">
      <input
        type="checkbox"
        data-path={path}
        className="size-5 shrink-0 accent-[var(--ink)]"
        checked={value === true}
        onChange={(e) => onChange(e.currentTarget.checked)}
      />
      {label}
    </label>
  );
}

/** A list of texts, one a line. */
export function TextLines({ schema, root, value, onChange, label, path }: FieldProps) {
  const id = useId();
  const places = placesIn(useContext(DocumentContext), path, resolve(schema.items ?? {}, root).pattern);
  const lines = Array.isArray(value) ? value : [];
  const [text, setText] = useState(lines.join("\n"));
  const shown =
    text
      .split("\n")
      .filter((l) => l.trim() !== "")
      .join("\n") === lines.join("\n")
      ? text
      : lines.join("\n");
  return (
    <div>
      <label htmlFor={id} className="block font-medium">
        {label} <span className="text-sm font-normal text-quiet">one a line</span>
      </label>
      <textarea
        id={id}
        data-path={path}
        className="field mt-1"
        rows={Math.min(6, Math.max(2, lines.length + 1))}
        value={shown}
        onChange={(e) => {
          setText(e.currentTarget.value);
          onChange(
            e.currentTarget.value
              .split("\n")
              .map((l) => l.trim())
              .filter((l) => l !== ""),
          );
        }}
      />
      {places.length > 0 && <AddPlace places={places} named={lines} onAdd={(place) => onChange([...lines, place])} />}
    </div>
  );
}

/** What the places of a list are called, and the others of the document to choose from. */
function AddPlace({
  places,
  named,
  onAdd,
}: {
  places: readonly NamedPlace[];
  named: readonly unknown[];
  onAdd(place: string): void;
}) {
  const words = places.filter((p) => named.includes(p.value)).map((p) => p.words);
  return (
    <>
      {words.length > 0 && <p className="text-sm text-quiet">{words.join("; ")}</p>}
      <select
        className="field mt-1 text-sm"
        aria-label="Add one of this document"
        value=""
        onChange={(e) => onAdd(e.currentTarget.value)}
      >
        <option value="">Add one of this document ...</option>
        {places
          .filter((p) => !named.includes(p.value))
          .map((p) => (
            <option key={p.value} value={p.value}>
              {p.words}
            </option>
          ))}
      </select>
    </>
  );
}

/** Conditions and other rare shapes are edited as JSON, checked as they are typed. */
export function AsJson({ value, onChange, label, path }: FieldProps) {
  const id = useId();
  const [text, setText] = useState(value === undefined ? "" : JSON.stringify(value));
  const [problem, setProblem] = useState("");
  return (
    <div>
      <label htmlFor={id} className="block font-medium">
        {label} <span className="text-sm font-normal text-quiet">JSON</span>
      </label>
      <textarea
        id={id}
        data-path={path}
        className="field num mt-1 text-sm"
        rows={2}
        value={text}
        aria-invalid={problem !== "" || undefined}
        onChange={(e) => {
          const typed = e.currentTarget.value;
          setText(typed);
          try {
            onChange(typed.trim() === "" ? undefined : JSON.parse(typed));
            setProblem("");
          } catch (error) {
            setProblem((error as Error).message);
          }
        }}
      />
      {problem && <p className="text-sm text-stop">Not taken over: {problem}</p>}
    </div>
  );
}
