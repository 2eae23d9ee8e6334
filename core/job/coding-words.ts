/** The words that are to be written, field by field, with the reason for each. */
import { type CodingMap, codedWords, type FieldPlace, wordRef } from "../coding/map";
import type { Rule } from "../coding/solve";
import { fieldValue, withFields } from "../coding/word";
import { allOf } from "../model/labels";
import type { CodingPlan, Decisive, WordChange, Words } from "./coding";

/** A field with all that it can come to need. The dependencies of a map go in no circle. */
export function withNeeds(place: FieldPlace, places: readonly FieldPlace[]): FieldPlace[] {
  const needed = (place.field.needs ?? []).flatMap((n) => places.find((p) => p.ref === n.field) ?? []);
  return [place, ...needed.flatMap((p) => withNeeds(p, places))];
}

export function rulesOf(places: readonly FieldPlace[]): Rule[] {
  const needs = places.flatMap(({ ref, field }) =>
    (field.needs ?? []).map((n): Rule => ({ kind: "needs", key: ref, with: n.with, other: n.field, is: n.is })),
  );
  const groups = new Map<string, string[]>();
  for (const { ref, field } of places)
    if (field.group) groups.set(field.group, [...(groups.get(field.group) ?? []), ref]);
  return [...needs, ...[...groups.values()].map((keys): Rule => ({ kind: "oneOf", keys }))];
}

export function wordChanges(
  map: CodingMap,
  words: Words,
  changed: ReadonlyMap<string, number>,
  why: (p: FieldPlace) => string[],
): WordChange[] {
  return codedWords(map).flatMap(({ ref, word, places }) => {
    const own = places.filter((p) => changed.has(p.ref));
    const before = words.get(ref);
    if (own.length === 0 || !before) return [];
    const to = (p: FieldPlace) => changed.get(p.ref) ?? 0;
    return [
      {
        word: ref,
        before,
        after: withFields(word, before, new Map(own.map((p) => [p.field, to(p)]))),
        fields: own.map((place) => ({ place, from: fieldValue(place.field, before), to: to(place), why: why(place) })),
      },
    ];
  });
}

/** Why a field changes: what it would cost to leave it, or which other field needs it. */
export function reasons(
  place: FieldPlace,
  decisive: readonly Decisive[],
  known: readonly FieldPlace[],
  changed: ReadonlyMap<string, number>,
): string[] {
  const own = decisive.find((d) => d.place.ref === place.ref);
  const to = changed.get(place.ref) ?? 0;
  const harms = own?.right.includes(to) ? [...own.harm].filter(([raw]) => !own.right.includes(raw)) : [];
  const best = own?.harm.get(to);
  const lost = new Set(harms.flatMap(([, h]) => h.functions.map((f) => f.name)));
  const codes = harms
    .flatMap(([, h]) => h.codes)
    .filter((c) => !best?.codes.some((b) => b.monitor === c.monitor))
    .map((c) => `Else ${c.by} stores ${c.code}, ${c.say}.`);
  const asked = known.flatMap((p) =>
    (p.field.needs ?? [])
      .filter((n) => n.field === place.ref && n.with.includes(changed.get(p.ref) ?? -1) && n.is.includes(to))
      .map((n) => n.say),
  );
  const group = known.find(
    (p) => p !== place && p.field.group && p.field.group === place.field.group && (changed.get(p.ref) ?? 0) > 0,
  );
  const told = [
    ...(own?.because && own.right.includes(to) ? [own.because] : []),
    ...(lost.size > 0 ? [`For ${allOf(lost)}.`] : []),
    ...new Set(codes),
    ...asked,
    ...(group && to === 0 ? [`${group.field.label} excludes it.`] : []),
  ];
  return told.length > 0 ? told : ["A dependency of the coding map asks for it."];
}

/** Words that were read and hold a field that comes to need a word that was not. */
export function waitingWords(
  decisive: readonly (readonly FieldPlace[])[],
  bytesOf: (p: FieldPlace) => readonly number[] | undefined,
): Map<string, string[]> {
  const waiting = new Map<string, string[]>();
  for (const [place, ...needed] of decisive) {
    if (!place || !bytesOf(place)) continue;
    const missing = needed.filter((p) => !bytesOf(p)).map((p) => `${p.unit.name}: ${p.word.name}`);
    const ref = wordRef(place.unit, place.word);
    if (missing.length > 0) waiting.set(ref, [...new Set([...(waiting.get(ref) ?? []), ...missing])]);
  }
  return waiting;
}

export function unreadWords(map: CodingMap, open: readonly FieldPlace[]): CodingPlan["unread"] {
  return codedWords(map).flatMap(({ ref, places }) => {
    const fields = places.filter((p) => open.some((o) => o.ref === p.ref)).map((p) => p.field.label);
    return fields.length > 0 ? [{ word: ref, fields }] : [];
  });
}
