import type { Attributes } from "./types";

/** Identity of a signal: its origin and its attributes, in the order of their names. */
export function signalKey(origin: string, attributes: Attributes): string {
  let key = origin;
  for (const name of Object.keys(attributes).sort()) key += `|${name}=${attributes[name]}`;
  return key;
}

/** True when the attributes hold every wanted value. */
export function matches(attributes: Attributes, where: Attributes): boolean {
  for (const name in where) if (attributes[name] !== where[name]) return false;
  return true;
}
