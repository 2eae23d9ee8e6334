import { ChevronDown, ChevronUp, Copy, Plus, Trash2 } from "lucide-react";
import { type ReactNode, useId, useState } from "react";
import { Button } from "../controls";
import { ContactsPaste } from "./contacts-paste";

/** The parts of JSON Schema that the documents use. */
export interface JsonSchema {
  type?: string | string[];
  description?: string;
  properties?: Record<string, JsonSchema>;
  required?: string[];
  items?: JsonSchema;
  prefixItems?: JsonSchema[];
  enum?: unknown[];
  const?: unknown;
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  $ref?: string;
  $defs?: Record<string, JsonSchema>;
  additionalProperties?: boolean | JsonSchema;
  default?: unknown;
  maxLength?: number;
}

type Json = unknown;

interface FieldProps {
  schema: JsonSchema;
  root: JsonSchema;
  value: Json;
  onChange: (value: Json) => void;
  label: string;
  path: string;
  hidden?: readonly string[];
}

/** A form for any document of a schema: what the schema allows can be entered, nothing else. */
export function JsonForm(props: Omit<FieldProps, "root" | "label" | "path"> & { label?: string }) {
  return <ObjectFields {...props} root={props.schema} label={props.label ?? ""} path="" bare />;
}

function resolve(schema: JsonSchema, root: JsonSchema): JsonSchema {
  if (!schema.$ref) return schema;
  return root.$defs?.[schema.$ref.split("/").at(-1) ?? ""] ?? schema;
}

/** A key as words: `fitMinutes` becomes `Fit minutes`. */
function labelOf(key: string, schema?: JsonSchema): string {
  if (schema?.description) return schema.description;
  const words = key.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function Field(props: FieldProps): ReactNode {
  const schema = resolve(props.schema, props.root);
  if (schema.const !== undefined) return null;
  if (schema.enum) return <Choice {...props} schema={schema} />;
  if (schema.anyOf || schema.oneOf) return <AsJson {...props} schema={schema} />;
  const type = Array.isArray(schema.type) ? "json" : schema.type;
  if (type === "object" && schema.properties) return <ObjectFields {...props} schema={schema} />;
  if (type === "array" && schema.items) {
    const items = resolve(schema.items, props.root);
    if (items.type === "string" && !items.enum) return <TextLines {...props} schema={schema} />;
    return items.enum ? <Several {...props} schema={items} /> : <List {...props} schema={schema} />;
  }
  if (type === "boolean") return <Flag {...props} schema={schema} />;
  if (type === "string" || type === "number" || type === "integer") return <Text {...props} schema={schema} />;
  return <AsJson {...props} schema={schema} />;
}

function Text({ schema, value, onChange, label, path }: FieldProps) {
  const id = useId();
  const number = schema.type !== "string";
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
          onChange={(e) => changed(e.currentTarget.value)}
        />
      )}
    </div>
  );
}

/** A number as it is typed, decimal comma or point; text that is none stays text, so that the check can name it. */
function numberOf(text: string): number | string {
  const number = Number(text.trim().replace(",", "."));
  return Number.isFinite(number) ? number : text;
}

function Choice({ schema, value, onChange, label, path }: FieldProps) {
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
            {String(o)}
          </option>
        ))}
      </select>
    </div>
  );
}

function Several({ schema, value, onChange, label }: FieldProps) {
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
            {String(o)}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function Flag({ value, onChange, label, path }: FieldProps) {
  return (
    <label className="flex min-h-11 items-center gap-3 self-end">
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
function TextLines({ value, onChange, label, path }: FieldProps) {
  const id = useId();
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
    </div>
  );
}

/** Conditions and other rare shapes are edited as JSON, checked as they are typed. */
function AsJson({ value, onChange, label, path }: FieldProps) {
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

function isObject(value: Json): value is Record<string, Json> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** The fields of an object: short ones side by side, then lists and groups; optional ones that are empty wait behind “Add”. */
function ObjectFields({
  schema,
  root,
  value,
  onChange,
  label,
  path,
  hidden = [],
  bare = false,
}: FieldProps & { bare?: boolean }) {
  const object = isObject(value) ? value : {};
  const set = (key: string, next: Json) => {
    const { [key]: _, ...rest } = object;
    onChange(next === undefined ? rest : { ...object, [key]: next });
  };
  const keys = Object.keys(schema.properties ?? {}).filter((k) => !hidden.includes(k));
  const required = new Set(schema.required ?? []);
  const shown = keys.filter((k) => required.has(k) || k in object);
  const absent = keys.filter((k) => !shown.includes(k));
  const isShort = (k: string) => {
    const s = resolve(schema.properties?.[k] ?? {}, root);
    return Boolean(s.enum) || ["string", "number", "integer", "boolean"].includes(String(s.type));
  };
  const field = (k: string) => {
    const own = schema.properties?.[k] ?? {};
    return (
      <Field
        key={k}
        schema={own}
        root={root}
        value={object[k]}
        onChange={(v) => set(k, v)}
        label={labelOf(k, resolve(own, root))}
        path={path ? `${path}.${k}` : k}
      />
    );
  };
  const body = (
    <div className="space-y-4">
      <div className="grid gap-x-5 gap-y-3 sm:grid-cols-2">{shown.filter(isShort).map(field)}</div>
      {shown.filter((k) => !isShort(k)).map(field)}
      {absent.length > 0 && (
        <div className="flex flex-wrap gap-2">
          {absent.map((k) => (
            <Button
              key={k}
              look="quiet"
              className="px-2!"
              onClick={() => set(k, emptyOf(schema.properties?.[k] ?? {}, root))}
            >
              <Plus size={16} aria-hidden="true" /> {labelOf(k, resolve(schema.properties?.[k] ?? {}, root))}
            </Button>
          ))}
        </div>
      )}
    </div>
  );
  if (bare) return body;
  return (
    <fieldset className="border-l-2 border-rule pl-4">
      <legend className="font-medium">{label}</legend>
      {body}
    </fieldset>
  );
}

/** A value to start from: defaults, empty texts, first choices. */
function emptyOf(schema: JsonSchema, root: JsonSchema): Json {
  const s = resolve(schema, root);
  if (s.default !== undefined) return s.default;
  if (s.const !== undefined) return s.const;
  if (s.enum) return s.enum[0];
  if (s.anyOf || s.oneOf) return emptyOf((s.anyOf ?? s.oneOf)?.[0] ?? {}, root);
  if (s.type === "array") return [];
  if (s.type === "boolean") return false;
  if (s.type === "number" || s.type === "integer") return 1;
  if (s.type === "object")
    return Object.fromEntries((s.required ?? []).map((k) => [k, emptyOf(s.properties?.[k] ?? {}, root)]));
  return "";
}

/** A list of objects as lines that open; members are added, copied, moved and removed. */
function List({ schema, root, value, onChange, label, path }: FieldProps) {
  const items = Array.isArray(value) ? value : [];
  const itemSchema = schema.items ?? {};
  const move = (from: number, to: number) => {
    const next = [...items];
    const [moved] = next.splice(from, 1);
    next.splice(to, 0, moved);
    onChange(next);
  };
  return (
    <fieldset>
      <legend className="font-medium">
        {label} <span className="num text-sm font-normal text-quiet">{items.length}</span>
      </legend>
      <ul className="mt-1">
        {items.map((item, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: members have no identity of their own while they are written
          <li key={i} className="border-b border-rule first:border-t">
            <details>
              <summary className="flex min-h-11 cursor-pointer items-center gap-2 py-1">
                <ChevronDown size={16} aria-hidden="true" className="shrink-0 text-quiet" />
                <span className="min-w-0 flex-1 truncate">{nameOf(item, i)}</span>
              </summary>
              <div className="space-y-3 pb-4 pl-5">
                <Field
                  schema={itemSchema}
                  root={root}
                  value={item}
                  onChange={(v) => onChange(items.map((x, j) => (j === i ? v : x)))}
                  label={nameOf(item, i)}
                  path={`${path}.${i}`}
                />
                <div className="flex flex-wrap gap-2">
                  <Button look="quiet" className="px-2!" disabled={i === 0} onClick={() => move(i, i - 1)}>
                    <ChevronUp size={16} aria-hidden="true" /> Up
                  </Button>
                  <Button
                    look="quiet"
                    className="px-2!"
                    onClick={() => onChange([...items.slice(0, i + 1), structuredClone(item), ...items.slice(i + 1)])}
                  >
                    <Copy size={16} aria-hidden="true" /> Copy
                  </Button>
                  <Button look="quiet" className="px-2!" onClick={() => onChange(items.filter((_, j) => j !== i))}>
                    <Trash2 size={16} aria-hidden="true" /> Remove
                  </Button>
                </div>
              </div>
            </details>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button look="quiet" className="px-2!" onClick={() => onChange([...items, emptyOf(itemSchema, root)])}>
          <Plus size={16} aria-hidden="true" /> Add to {label.toLowerCase()}
        </Button>
        {path.endsWith("contacts") && <ContactsPaste onRead={(contacts) => onChange([...items, ...contacts])} />}
      </div>
    </fieldset>
  );
}

/** What a member of a list is called by. */
function nameOf(item: Json, index: number): string {
  if (isObject(item)) {
    if ("direction" in item && "kind" in item) return `${item.id}  ${item.label ?? item.kind}, ${item.direction}`;
    for (const key of ["name", "title", "label", "say", "ask", "id", "setting", "part", "why", "text", "format"])
      if (typeof item[key] === "string" && item[key] !== "") return String(item[key]);
    if (isObject(item.condition)) return JSON.stringify(item.condition);
    if (typeof item.a === "string") return `${item.a} – ${item.b}`;
    if (typeof item.from === "string") return `${item.from} → ${item.to}`;
    if (Array.isArray(item.contacts)) return item.contacts.join(" – ");
  }
  return typeof item === "string" ? item : `Number ${index + 1}`;
}
