/** What was read from text, laid over a coding map that is there. */
import type { CodedField, CodedUnit, CodedWord } from "./map";

function freeId(base: string, among: readonly { id: string }[]): string {
  const taken = new Set(among.map((x) => x.id));
  let id = base;
  for (let n = 2; taken.has(id); n++) id = `${base}${n}`;
  return id;
}

/**
 * A map with what was read from text. Units go by their request, words by their identifier, fields by their label: one
 * that stands there already keeps its identifier and what the text cannot say of it.
 */
export function withMapText(units: readonly CodedUnit[], read: readonly CodedUnit[]): CodedUnit[] {
  const next = [...units];
  for (const unit of read) {
    const at = next.findIndex((u) => u.request === unit.request);
    const known = next[at];
    if (known) next[at] = { ...known, words: mergeWords(known.words, unit.words) };
    else next.push({ ...unit, id: freeId(unit.id, next) });
  }
  return next;
}

function mergeWords(words: readonly CodedWord[], read: readonly CodedWord[]): CodedWord[] {
  const next = [...words];
  for (const word of read) {
    const at = next.findIndex((w) => w.identifier === word.identifier);
    const known = next[at];
    if (known) next[at] = { ...known, fields: mergeFields(known.fields, word.fields) };
    else next.push({ ...word, id: freeId(word.id, next) });
  }
  return next;
}

function mergeFields(fields: readonly CodedField[], read: readonly CodedField[]): CodedField[] {
  const next = [...fields];
  for (const field of read) {
    const at = next.findIndex((f) => f.label.toLowerCase() === field.label.toLowerCase());
    const known = next[at];
    if (known) next[at] = { ...known, ...field, id: known.id };
    else next.push({ ...field, id: freeId(field.id, next) });
  }
  return next;
}
