import Papa from "papaparse";
import { KIND_NAMES, SIGNAL_KINDS, type SignalKind } from "../model/kinds";
import type { Contact } from "../model/types";

/** Contacts read from a pasted table; bad rows are data and leave the good ones alone. */
export interface ContactsTable {
  contacts: Contact[];
  problems: { row: number; problem: string }[];
}

const DIRECTIONS: Readonly<Record<string, Contact["direction"]>> = {
  in: "in",
  input: "in",
  out: "out",
  output: "out",
  wire: "wire",
  both: "wire",
  "": "wire",
};

/** More rows than any plug has contacts. */
const MAX_ROWS = 2000;

/**
 * Reads contacts from a table as it is copied from a leaflet: comma, semicolon or tab between the cells, with or
 * without a header line. Columns without header are number, kind, direction, function, wire base, tracer.
 *
 * @example readContacts("12;battery;in;steady feed;red").contacts
 * // [{id: "12", kind: "battery", direction: "in", label: "steady feed", wire: {base: "red"}}]
 */
export function readContacts(text: string): ContactsTable {
  const { data } = Papa.parse<string[]>(text.trim(), { skipEmptyLines: "greedy", preview: MAX_ROWS + 1 });
  const header = (data[0] ?? []).map((c) => c.trim().toLowerCase());
  const named = header.some((h) => ["kind", "signal"].includes(h));
  const column = (...names: string[]) => header.findIndex((h) => names.includes(h));
  const columns = named
    ? [
        column("number", "contact", "pin", "cavity", "id"),
        column("kind", "signal"),
        column("direction"),
        column("function", "label"),
        column("wire", "base", "colour", "wire base"),
        column("tracer"),
      ]
    : [0, 1, 2, 3, 4, 5];
  const table: ContactsTable = { contacts: [], problems: [] };
  const taken = new Set<string>();
  for (const [i, row] of data.entries()) {
    if (named && i === 0) continue;
    const [id = "", kind = "", direction = "", label = "", base = "", tracer = ""] = columns.map((c) =>
      (row[c] ?? "").trim(),
    );
    const read = readRow(id, kind, direction, taken);
    if (typeof read === "string") {
      table.problems.push({ row: i + 1, problem: read });
      continue;
    }
    taken.add(id);
    table.contacts.push({
      ...read,
      ...(label ? { label } : {}),
      ...(base ? { wire: tracer ? { base, tracer } : { base } } : {}),
    });
  }
  if (data.length > MAX_ROWS)
    table.problems.push({
      row: MAX_ROWS + 1,
      problem: `Nothing is read from row ${MAX_ROWS + 1} on: no plug has so many.`,
    });
  return table;
}

function readRow(id: string, kind: string, direction: string, taken: ReadonlySet<string>): Contact | string {
  if (!/^[A-Za-z0-9_+-]{1,60}$/.test(id)) return `“${id}” is no contact number: letters, digits, - + _ only.`;
  if (taken.has(id)) return `Contact ${id} stands there twice.`;
  const found = kindNamed(kind);
  if (!found) return `“${kind}” is no kind of signal. Kinds are: ${Object.values(KIND_NAMES).join(", ")}.`;
  const way = DIRECTIONS[direction.toLowerCase()];
  if (!way) return `“${direction}” is no direction: in, out or wire.`;
  return { id, kind: found, direction: way };
}

/** A kind by its identifier or its plain name, capitals and spaces aside. */
function kindNamed(text: string): SignalKind | undefined {
  const flat = (t: string) => t.toLowerCase().replace(/[\s_-]/g, "");
  return SIGNAL_KINDS.find((k) => flat(k) === flat(text) || flat(KIND_NAMES[k]) === flat(text));
}
