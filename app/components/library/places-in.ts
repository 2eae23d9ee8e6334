import { isObject, type Json } from "./json-schema";

/** A place as documents write it, and in words. */
export interface NamedPlace {
  value: string;
  words: string;
}

/**
 * The places of a document that a field may name: contacts of all parts, of the part in whose lists it stands, or
 * sockets. Empty for a field that names none.
 *
 * @param path of the field, for example `parts.3.joins.0.from`
 * @param pattern that its schema asks for
 */
export function placesIn(document: Json, path: string, pattern: string | undefined): NamedPlace[] {
  const parts = list(document, "parts");
  const segments = pattern?.split("\\.").length ?? 1;
  if (/^inspections\.\d+\.at$/.test(path)) return [...parts.map(ownName), ...parts.flatMap(contactsOf)];
  if (segments === 3) return parts.flatMap(contactsOf);
  if (segments !== 2) return [];
  const within = /^parts\.(\d+)\./.exec(path)?.[1];
  if (within === undefined) return parts.flatMap(portsOf);
  const own = parts[Number(within)];
  return own === undefined ? [] : contactsOf(own).map(({ value, words }) => ({ value: behindFirst(value), words }));
}

const ownName = (part: Json): NamedPlace => ({ value: word(part, "id"), words: word(part, "name") });

function portsOf(part: Json): NamedPlace[] {
  return list(part, "ports").map((port) => ({
    value: `${word(part, "id")}.${word(port, "id")}`,
    words: `${word(part, "name")}: ${word(port, "label")}`,
  }));
}

function contactsOf(part: Json): NamedPlace[] {
  return list(part, "ports").flatMap((port, i) => {
    const { value, words } = portsOf(part)[i] as NamedPlace;
    return list(port, "contacts").map((c) => ({
      value: `${value}.${word(c, "id")}`,
      words: `${words}, ${word(c, "label") || `contact ${word(c, "id")}`}`,
    }));
  });
}

const behindFirst = (value: string) => value.slice(value.indexOf(".") + 1);

function list(of: Json, key: string): Json[] {
  const value = isObject(of) ? of[key] : undefined;
  return Array.isArray(value) ? value : [];
}

/** A text of something that may be half written. */
function word(of: Json, key: string): string {
  const value = isObject(of) ? of[key] : undefined;
  return typeof value === "string" ? value : "";
}
