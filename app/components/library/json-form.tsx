import { ChevronDown, ChevronUp, Copy, Plus, Trash2 } from "lucide";
import { createContext, type ReactNode, useContext, useEffect, useRef, useState } from "react";
import type { BackDrawing, DashDrawing, PlanDrawing } from "~/core/drawing/drawing";
import type { PartPhoto } from "~/core/model/types";
import type { FieldProblem } from "~/profiles/checks";
import { Button } from "../controls";
import { Icon } from "../icon";
import { ConditionField, DocumentContext, isCondition } from "./condition-field";
import { ContactsByPlug } from "./contacts-by-plug";
import { ContactsPaste } from "./contacts-paste";
import { BackEditor, DashEditor, PlanEditor } from "./drawing-editor";
import { AsJson, Choice, Flag, Several, Text, TextLines } from "./json-fields";
import {
  emptyOf,
  type FieldProps,
  isObject,
  type Json,
  type JsonSchema,
  labelOf,
  nameOf,
  resolve,
  valueAt,
} from "./json-schema";
import { PhotosEditor } from "./photos-editor";

/** A form for any document of a schema: what the schema allows can be entered, nothing else. */
export function JsonForm({
  problems = [],
  follows = null,
  ...props
}: Omit<FieldProps, "root" | "label" | "path"> & {
  problems?: readonly FieldProblem[];
  /** What followed from the answer that was changed last. */
  follows?: FieldProblem | null;
}) {
  const said = { problems: new Map(problems.map((p) => [p.path, p.say])), follows };
  return (
    <DocumentContext.Provider value={props.value}>
      <SaidContext.Provider value={said}>
        <ObjectFields {...props} root={props.schema} label="" path="" bare />
      </SaidContext.Provider>
    </DocumentContext.Provider>
  );
}

/** What is said at fields, by their path. */
const SaidContext = createContext<{ problems: ReadonlyMap<string, string>; follows: FieldProblem | null }>({
  problems: new Map(),
  follows: null,
});

/** A field, with what is wrong in it or follows from it below. */
function Field(props: FieldProps) {
  const { problems, follows } = useContext(SaidContext);
  const problem = problems.get(props.path);
  // A tick stands beside the lower edge of its neighbour.
  const isFlag = resolve(props.schema, props.root).type === "boolean";
  return (
    <div className={isFlag ? "flex flex-col justify-end" : undefined}>
      {fieldOf(props)}
      {problem && <p className="mt-1 text-stop">{problem}</p>}
      {follows?.path === props.path && (
        <p className="mt-1 text-sm text-quiet" aria-live="polite">
          {follows.say}
        </p>
      )}
    </div>
  );
}

/** Drawings are moved with the hand; null for every other field, and for a drawing that is not one yet. */
function drawingEditor({ path, value, onChange }: FieldProps): ReactNode {
  if (!isObject(value) || typeof value.width !== "number" || typeof value.height !== "number") return null;
  if (path === "drawings.dash" && Array.isArray(value.shapes))
    return <DashEditor value={value as unknown as DashDrawing} onChange={onChange} />;
  if (path === "drawings.plan" && Array.isArray(value.body))
    return <PlanEditor value={value as unknown as PlanDrawing} onChange={onChange} />;
  if (/^parts\.\d+\.back$/.test(path) && Array.isArray(value.sockets))
    return <BackEditor value={value as unknown as BackDrawing} onChange={onChange} />;
  return null;
}

/** Photos of the part in whose fields it stands. */
function PhotosField({ value, onChange, path }: FieldProps) {
  const part = valueAt(useContext(DocumentContext), path.split(".").slice(0, -1));
  const name = isObject(part) && typeof part.name === "string" ? part.name : "part";
  return <PhotosEditor photos={Array.isArray(value) ? (value as PartPhoto[]) : []} name={name} onChange={onChange} />;
}

/** A text, or a text with a condition. */
function isTextOrLine(schema: JsonSchema, root: JsonSchema): boolean {
  const shapes = (schema.anyOf ?? []).map((s) => resolve(s, root));
  return shapes.some((s) => s.type === "string") && shapes.some((s) => s.properties?.say);
}

/** A line that always stands, or only under a condition. */
function ConditionedLine({ schema, root, value, onChange, label, path }: FieldProps) {
  const shapes = (schema.anyOf ?? []).map((s) => resolve(s, root));
  const shape = shapes.find((s) => s.properties?.say);
  const when = shape?.properties?.when;
  const line = isObject(value) ? value : { say: value };
  const text = shapes.find((s) => s.type === "string") ?? {};
  return (
    <div className="space-y-2">
      <Text
        schema={text}
        root={root}
        value={line.say}
        onChange={(say) => onChange(isObject(value) ? { ...value, say } : say)}
        label={label}
        path={path}
      />
      {when && isObject(value) && "when" in value ? (
        <>
          <Field
            schema={when}
            root={root}
            value={value.when}
            onChange={(next) => onChange({ ...value, when: next })}
            label="Only"
            path={`${path}.when`}
          />
          <Button look="quiet" className="px-2!" onClick={() => onChange(value.say)}>
            Always
          </Button>
        </>
      ) : (
        when && (
          <Button look="quiet" className="px-2!" onClick={() => onChange({ say: line.say, when: emptyOf(when, root) })}>
            <Icon of={Plus} size={16} /> only under a condition
          </Button>
        )
      )}
    </div>
  );
}

function fieldOf(props: FieldProps): ReactNode {
  const schema = resolve(props.schema, props.root);
  if (schema.const !== undefined) return null;
  if (schema.enum) return <Choice {...props} schema={schema} />;
  if (isCondition(schema, props.root)) return <ConditionField {...props} schema={schema} />;
  if (isTextOrLine(schema, props.root)) return <ConditionedLine {...props} schema={schema} />;
  if (schema.anyOf || schema.oneOf) return <AsJson {...props} schema={schema} />;
  if (/^parts\.\d+\.photos$/.test(props.path)) return <PhotosField {...props} />;
  const drawn = drawingEditor(props);
  if (drawn)
    return (
      <div className="space-y-2">
        {drawn}
        <Opened path={props.path} line="Its fields one by one">
          {() => <ObjectFields {...props} schema={schema} />}
        </Opened>
      </div>
    );
  const type = Array.isArray(schema.type) ? "json" : schema.type;
  if (type === "object" && schema.properties) return <ObjectFields {...props} schema={schema} />;
  if (type === "array" && schema.prefixItems) return <Tuple {...props} schema={schema} />;
  if (type === "array" && schema.items) {
    const items = resolve(schema.items, props.root);
    if (items.type === "string" && !items.enum) return <TextLines {...props} schema={schema} />;
    return items.enum ? <Several {...props} schema={items} /> : <List {...props} schema={schema} />;
  }
  if (type === "boolean") return <Flag {...props} schema={schema} />;
  if (type === "string" || type === "number" || type === "integer") return <Text {...props} schema={schema} />;
  return <AsJson {...props} schema={schema} />;
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
              <Icon of={Plus} size={16} /> {labelOf(k, resolve(schema.properties?.[k] ?? {}, root))}
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

const PLACES = ["first", "second", "third", "fourth"];

/** A fixed number of values, side by side. */
function Tuple({ schema, root, value, onChange, label, path }: FieldProps) {
  const members = schema.prefixItems ?? [];
  const list = members.map((_, i) => (Array.isArray(value) ? value[i] : undefined));
  return (
    <fieldset>
      <legend className="font-medium">{label}</legend>
      <div className="grid grid-cols-2 gap-x-5">
        {members.map((member, i) => (
          <Field
            key={PLACES[i]}
            schema={member}
            root={root}
            value={list[i]}
            onChange={(v) => onChange(list.map((x, j) => (j === i ? v : x)))}
            label={PLACES[i] ?? ""}
            path={`${path}.${i}`}
          />
        ))}
      </div>
    </fieldset>
  );
}

/**
 * A line that opens to fields. They are made when it is opened first, as a document has thousands; a line with something
 * wrong in it is open.
 */
function Opened({ path, line, children }: { path: string; line: string; children: () => ReactNode }) {
  const { problems } = useContext(SaidContext);
  const wrong = [...problems.keys()].some((p) => p.startsWith(`${path}.`));
  const [made, setMade] = useState(wrong);
  const details = useRef<HTMLDetailsElement>(null);
  useEffect(() => {
    if (wrong && details.current) details.current.open = true;
  }, [wrong]);
  return (
    <details ref={details} onToggle={(e) => e.currentTarget.open && setMade(true)}>
      <summary data-path={path} className="flex min-h-11 cursor-pointer items-center gap-2 py-1">
        <Icon of={ChevronDown} size={16} className="shrink-0 text-quiet" />
        <span className="min-w-0 flex-1 truncate">{line}</span>
      </summary>
      {(made || wrong) && children()}
    </details>
  );
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
  const member = (i: number) => (
    <Field
      schema={itemSchema}
      root={root}
      value={items[i]}
      onChange={(v) => onChange(items.map((x, j) => (j === i ? v : x)))}
      label={nameOf(items[i], i)}
      path={`${path}.${i}`}
    />
  );
  return (
    <fieldset>
      <legend className="font-medium">
        {label} <span className="num text-sm font-normal text-quiet">{items.length}</span>
      </legend>
      {path.endsWith(".contacts") && (
        <ContactsByPlug
          path={path}
          contacts={items}
          onAdd={(id) => onChange([...items, { ...(emptyOf(itemSchema, root) as object), id }])}
        >
          {member}
        </ContactsByPlug>
      )}
      <ul className="mt-1">
        {items.map((item, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: members have no identity of their own while they are written
          <li key={i} className="border-b border-rule first:border-t">
            <Opened path={`${path}.${i}`} line={nameOf(item, i)}>
              {() => (
                <div className="space-y-3 pb-4 pl-5">
                  {member(i)}
                  <div className="flex flex-wrap gap-2">
                    <Button look="quiet" className="px-2!" disabled={i === 0} onClick={() => move(i, i - 1)}>
                      <Icon of={ChevronUp} size={16} /> Up
                    </Button>
                    <Button
                      look="quiet"
                      className="px-2!"
                      onClick={() => onChange([...items.slice(0, i + 1), structuredClone(item), ...items.slice(i + 1)])}
                    >
                      <Icon of={Copy} size={16} /> Copy
                    </Button>
                    <Button look="quiet" className="px-2!" onClick={() => onChange(items.filter((_, j) => j !== i))}>
                      <Icon of={Trash2} size={16} /> Remove
                    </Button>
                  </div>
                </div>
              )}
            </Opened>
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap gap-2">
        <Button look="quiet" className="px-2!" onClick={() => onChange([...items, emptyOf(itemSchema, root)])}>
          <Icon of={Plus} size={16} /> Add to {label.toLowerCase()}
        </Button>
        {path.endsWith("contacts") && <ContactsPaste onRead={(contacts) => onChange([...items, ...contacts])} />}
      </div>
    </fieldset>
  );
}
