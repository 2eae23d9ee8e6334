import { Plus, Trash2 } from "lucide";
import { createContext, useContext } from "react";
import { kitConditionWords } from "~/core/model/kit-condition";
import { conditionWords, SITUATION_VALUES, shortContact, situationWords, upperFirst } from "~/core/model/labels";
import type { KitCondition } from "~/core/model/profile";
import type { Condition, Part, SituationField, System } from "~/core/model/types";
import { Button } from "../controls";
import { Icon } from "../icon";
import { Among, Bounds, isNumber, Menu, OneOf, Words } from "./condition-inputs";
import { type FieldProps, isObject, type Json, type JsonSchema, resolve } from "./json-schema";

/** The document that is being written: what a condition may look at stands in it. */
export const DocumentContext = createContext<Json>(null);

/** True for the schema of a condition: one of its shapes holds when all of several do. */
export function isCondition(schema: JsonSchema, root: JsonSchema): boolean {
  return (schema.anyOf ?? []).some((s) => "all" in (resolve(s, root).properties ?? {}));
}

interface Statement {
  word: string;
  /** Whether a condition is of this kind. */
  is: (c: Record<string, Json>) => boolean;
  fresh: Json;
}

/** What a condition can say, in the words of a sentence, by the key that its schema must have. */
const STATEMENTS: Record<string, Statement> = {
  choice: { word: "the choice", is: (c) => "choice" in c, fresh: { choice: "", is: [] } },
  car: { word: "the car", is: (c) => "car" in c, fresh: { car: "gearbox", is: ["automatic"] } },
  fact: { word: "a fact of a part", is: (c) => "fact" in c, fresh: { fact: "", is: [] } },
  situation: { word: "the situation", is: (c) => "situation" in c, fresh: { situation: "key", is: ["on"] } },
  setting: { word: "a setting", is: (c) => "setting" in c, fresh: { setting: "", is: [] } },
  present: { word: "a signal at", is: (c) => "present" in c, fresh: { present: "" } },
  hears: { word: "the message", is: (c) => "hears" in c, fresh: { hears: "", bus: "" } },
};

/** A condition as a sentence with menus. */
export function ConditionField({ schema, root, value, onChange, label, path }: FieldProps) {
  const document = useContext(DocumentContext);
  const shapes = (schema.anyOf ?? []).map((s) => resolve(s, root).properties ?? {});
  const kinds = Object.keys(STATEMENTS).filter((k) => shapes.some((s) => k in s));
  const part = partAt(document, path);
  return (
    <fieldset data-path={path} className="border-l-2 border-rule pl-4">
      <legend className="font-medium">{label}</legend>
      <p className="mb-2 text-quiet">{upperFirst(sentence(document, part, value))}.</p>
      <Node value={value} onChange={onChange} kinds={kinds} part={part} />
    </fieldset>
  );
}

/** The part in whose list a condition stands; null elsewhere. */
function partAt(document: Json, path: string): Part | null {
  const index = /^parts\.(\d+)\./.exec(path)?.[1];
  const parts = isObject(document) && Array.isArray(document.parts) ? document.parts : [];
  return index === undefined ? null : ((parts[Number(index)] as Part | undefined) ?? null);
}

function sentence(document: Json, part: Part | null, value: Json): string {
  if (value === undefined) return "always";
  const { parts = [], choices = [] } = (isObject(document) ? document : {}) as { parts?: Part[]; choices?: never[] };
  try {
    if (part) return `when ${conditionWords({ parts } as unknown as System, part, value as Condition)}`;
    return kitConditionWords({ choices }, parts, value as KitCondition);
  } catch {
    return "not finished yet";
  }
}

interface NodeProps {
  value: Json;
  onChange: (value: Json) => void;
  kinds: readonly string[];
  part: Part | null;
}

function Node({ value, onChange, kinds, part }: NodeProps) {
  const of = isObject(value) ? value : {};
  const joined = "all" in of ? "all" : "any" in of ? "any" : null;
  if (joined) return <Several of={of} joined={joined} onChange={onChange} kinds={kinds} part={part} />;
  const fresh = STATEMENTS[kinds[0] ?? ""]?.fresh;
  return (
    <div className="space-y-2">
      {"not" in of ? (
        <Negated value={of.not} onChange={(inner) => onChange({ not: inner })} kinds={kinds} part={part} />
      ) : (
        <Leaf value={value} onChange={onChange} kinds={kinds} part={part} />
      )}
      <div className="flex flex-wrap gap-2">
        <Button look="quiet" className="px-2!" onClick={() => onChange({ all: [value, fresh] })}>
          <Icon of={Plus} size={16} /> and
        </Button>
        <Button look="quiet" className="px-2!" onClick={() => onChange({ any: [value, fresh] })}>
          <Icon of={Plus} size={16} /> or
        </Button>
        <Button look="quiet" className="px-2!" onClick={() => onChange("not" in of ? of.not : { not: value })}>
          {"not" in of ? "without “not”" : "not"}
        </Button>
      </div>
    </div>
  );
}

function Negated(props: NodeProps) {
  const of = isObject(props.value) ? props.value : {};
  return (
    <div className="flex items-start gap-2">
      <span className="pt-2.5 font-medium">not</span>
      <div className="flex-1">{"all" in of || "any" in of ? <Node {...props} /> : <Leaf {...props} />}</div>
    </div>
  );
}

/** Several statements, all or any of which must hold. */
function Several({
  of,
  joined,
  onChange,
  kinds,
  part,
}: Omit<NodeProps, "value"> & { of: Record<string, Json>; joined: "all" | "any" }) {
  const items = Array.isArray(of[joined]) ? (of[joined] as Json[]) : [];
  const put = (next: Json[]) => onChange(next.length === 1 ? next[0] : { [joined]: next });
  return (
    <div>
      <select
        aria-label="How they are joined"
        className="field w-auto!"
        value={joined}
        onChange={(e) => onChange({ [e.currentTarget.value]: items })}
      >
        <option value="all">all of these</option>
        <option value="any">at least one of these</option>
      </select>
      <ul className="mt-2 space-y-2">
        {items.map((item, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: statements have no identity of their own
          <li key={i} className="flex items-start gap-2 border-b border-rule pb-2">
            <div className="min-w-0 flex-1">
              <Node
                value={item}
                onChange={(v) => put(items.map((x, j) => (j === i ? v : x)))}
                kinds={kinds}
                part={part}
              />
            </div>
            <Button look="quiet" aria-label="Take this out" onClick={() => put(items.filter((_, j) => j !== i))}>
              <Icon of={Trash2} size={16} />
            </Button>
          </li>
        ))}
      </ul>
      <Button look="quiet" className="px-2!" onClick={() => put([...items, STATEMENTS[kinds[0] ?? ""]?.fresh])}>
        <Icon of={Plus} size={16} /> one more
      </Button>
    </div>
  );
}

/** One statement: what it looks at, and what must stand there. */
function Leaf({ value, onChange, kinds, part }: NodeProps) {
  const of = isObject(value) ? value : {};
  const kind = kinds.find((k) => STATEMENTS[k]?.is(of)) ?? "";
  return (
    <div className="flex flex-wrap items-end gap-2">
      <Menu
        label="It looks at"
        value={kind}
        options={kinds.map((k) => [k, STATEMENTS[k]?.word ?? k])}
        onChange={(k) => onChange(STATEMENTS[k]?.fresh)}
      />
      <LeafFields kind={kind} of={of} onChange={onChange} part={part} />
    </div>
  );
}

function LeafFields({
  kind,
  of,
  onChange,
  part,
}: {
  kind: string;
  of: Record<string, Json>;
  onChange: (value: Json) => void;
  part: Part | null;
}) {
  const document = useContext(DocumentContext);
  const put = (change: Record<string, Json>) => onChange({ ...of, ...change });
  const values = Array.isArray(of.is) ? of.is.map(String) : [];
  const among = (options: readonly (readonly [string, string])[]) => (
    <Among options={options} chosen={values} onChange={(is) => put({ is })} />
  );
  if (kind === "choice") {
    const choices = listOf(document, "choices") as {
      id: string;
      label: string;
      options: { id: string; label: string }[];
    }[];
    const chosen = choices.find((c) => c.id === of.choice);
    return (
      <>
        <Menu
          label="Choice"
          value={String(of.choice ?? "")}
          options={choices.map((c) => [c.id, c.label])}
          onChange={(choice) => onChange({ choice, is: [] })}
        />
        {among((chosen?.options ?? []).map((o) => [o.id, o.label]))}
      </>
    );
  }
  if (kind === "car")
    return (
      <>
        <Menu
          label="Of the car"
          value={String(of.car ?? "")}
          options={[
            ["gearbox", "gearbox"],
            ["driveSide", "drive side"],
          ]}
          onChange={(car) => onChange({ car, is: [] })}
        />
        {among((of.car === "driveSide" ? ["left", "right"] : ["automatic", "manual"]).map((v) => [v, v]))}
      </>
    );
  if (kind === "situation") {
    const field = String(of.situation ?? "key") as SituationField;
    const known = SITUATION_VALUES[field];
    return (
      <>
        <Menu
          label="What"
          value={field}
          options={Object.keys(SITUATION_VALUES).map((f) => [f, f.replace(/([A-Z])/g, " $1").toLowerCase()])}
          onChange={(f) => onChange(isNumber(f) ? { situation: f, atMost: 5 } : { situation: f, is: [] })}
        />
        {known ? (
          <Among
            options={known.map((v) => [v, situationWords(field, v)])}
            chosen={values}
            onChange={(is) => put({ is: is.map((v) => (v === "true" ? true : v === "false" ? false : v)) })}
          />
        ) : isNumber(field) ? (
          <Bounds of={of} onChange={onChange} />
        ) : (
          <OneOf values={values} onChange={(is) => put({ is })} />
        )}
      </>
    );
  }
  if (kind === "setting") {
    const setting = part?.settings?.find((s) => s.id === of.setting);
    return (
      <>
        <Menu
          label="Setting"
          value={String(of.setting ?? "")}
          options={(part?.settings ?? []).map((s) => [s.id, s.label])}
          onChange={(id) => onChange({ setting: id, is: [] })}
        />
        {among((setting?.values ?? []).map((v) => [v, v]))}
      </>
    );
  }
  if (kind === "present") {
    const contacts = (part?.ports ?? []).flatMap((p) =>
      p.contacts.map((c) => [`${p.id}.${c.id}`, `${p.label}, ${shortContact(c)}`] as const),
    );
    return (
      <Menu
        label="Contact"
        value={String(of.present ?? "")}
        options={contacts}
        onChange={(present) => put({ present })}
      />
    );
  }
  if (kind === "hears")
    return (
      <>
        <Words label="Message" value={String(of.hears ?? "")} onChange={(hears) => put({ hears })} />
        <Menu
          label="On the bus"
          value={String(of.bus ?? "")}
          options={(part?.buses ?? []).map((b) => [b.id, b.id])}
          onChange={(bus) => put({ bus })}
        />
      </>
    );
  return (
    <>
      <Words label="Part and fact" value={String(of.fact ?? "")} onChange={(fact) => put({ fact })} />
      <OneOf values={values} onChange={(is) => put({ is })} />
    </>
  );
}

function listOf(document: Json, key: string): unknown[] {
  const list = isObject(document) ? document[key] : null;
  return Array.isArray(list) ? list : [];
}
