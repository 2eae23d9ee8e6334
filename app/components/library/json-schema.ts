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
  pattern?: string;
}

export type Json = unknown;

export interface FieldProps {
  schema: JsonSchema;
  root: JsonSchema;
  value: Json;
  onChange: (value: Json) => void;
  label: string;
  path: string;
  hidden?: readonly string[];
}

export function resolve(schema: JsonSchema, root: JsonSchema): JsonSchema {
  if (!schema.$ref) return schema;
  return root.$defs?.[schema.$ref.split("/").at(-1) ?? ""] ?? schema;
}

/** A key as words: `fitMinutes` becomes `Fit minutes`. */
export function labelOf(key: string, schema?: JsonSchema): string {
  if (schema?.description) return schema.description;
  const words = key.replace(/([a-z])([A-Z])/g, "$1 $2").toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
}

/** A value to choose as words: `compositeVideo` becomes `composite video`. */
export function optionLabel(value: unknown): string {
  const words = String(value).replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);
  return words.replace(/\b(usb|can)\b/g, (w) => w.toUpperCase()).replace(/\bbluetooth\b/g, "Bluetooth");
}

export function isObject(value: Json): value is Record<string, Json> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

/** A value to start from: defaults, empty texts, first choices. */
export function emptyOf(schema: JsonSchema, root: JsonSchema): Json {
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

/** What stands at a place of a document; undefined where it has no such place. */
export function valueAt(document: Json, path: readonly string[]): Json {
  return path.reduce<Json>(
    (of, key) => (Array.isArray(of) ? of[Number(key)] : isObject(of) ? of[key] : undefined),
    document,
  );
}

/** What a member of a list is called by. */
export function nameOf(item: Json, index: number): string {
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

/**
 * A place of a document as its form calls it: `parts.1.ports.0.label` becomes “Parts, T-harness, Ports, plug to the car,
 * Label”. What the schema does not know is called by its key.
 */
export function placeInWords(schema: JsonSchema, document: Json, path: string): string {
  const words: string[] = [];
  let at: { schema: JsonSchema; value: Json } = { schema: resolve(schema, schema), value: document };
  for (const key of path.split(".")) {
    const { schema: own, value } = at;
    if (/^\d+$/.test(key) && (own.type === "array" || Array.isArray(value))) {
      const member = Array.isArray(value) ? value[Number(key)] : undefined;
      words.push(own.prefixItems ? `number ${Number(key) + 1}` : nameOf(member, Number(key)));
      at = { schema: resolve(own.prefixItems?.[Number(key)] ?? own.items ?? {}, schema), value: member };
    } else {
      const next = resolve(own.properties?.[key] ?? {}, schema);
      words.push(labelOf(key, next));
      at = { schema: next, value: isObject(value) ? value[key] : undefined };
    }
  }
  return words.join(", ");
}
