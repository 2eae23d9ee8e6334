import type { BusMap } from "../bus/bus-map";
import { type CodingMap, fieldPlaces } from "../coding/map";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";

export type SearchField = "text" | "connector" | "ways" | "year" | "country" | "screen";

export interface SearchWord {
  field: SearchField;
  word: string;
}

/** Longer words are cut; nobody types them out. */
const LONGEST = 60;

/** Words of a text as they are searched: small letters and digits, split at everything else. */
export function wordsOf(text: string): string[] {
  return (text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []).map((w) => w.slice(0, LONGEST));
}

/** All words by which a profile is found, each once. */
export function searchWords(profile: CarProfile | VariantProfile | KitProfile | CodingMap | BusMap): SearchWord[] {
  const found = new Map<string, SearchWord>();
  const add = (field: SearchField, word: string) => {
    if (word !== "") found.set(`${field}|${word}`, { field, word: word.toLowerCase().slice(0, LONGEST) });
  };
  const texts = [profile.id, profile.title, profile.sourceNote];
  if (profile.document === "car") {
    texts.push(profile.maker, profile.model, profile.gearbox);
    for (let year = profile.years.from; year <= profile.years.to; year++) add("year", String(year));
    for (const country of profile.countries ?? []) add("country", country);
  }
  if (profile.document === "variant") texts.push(profile.car, ...profile.identifyingFeatures);
  if (profile.document === "kit")
    texts.push(
      profile.maker,
      profile.work,
      ...profile.box,
      ...profile.functions.map((f) => f.name),
      ...profile.card.map((l) => (typeof l === "string" ? l : l.say)),
    );
  if (profile.document === "coding") {
    texts.push(profile.car, ...profile.units.map((u) => u.name));
    for (const { field } of fieldPlaces(profile)) texts.push(field.label, field.about);
  }
  if (profile.document === "busMap") {
    texts.push(profile.car);
    for (const s of profile.signals) texts.push(s.signal, s.message, ...s.values.map((v) => v.name));
  }
  for (const part of "parts" in profile ? profile.parts : []) {
    texts.push(part.name);
    if (part.facts?.format) add("screen", part.facts.format);
    for (const { connector } of part.ports) {
      if (!connector) continue;
      add("connector", connector.family);
      add("ways", String(connector.ways));
      texts.push(connector.family);
    }
  }
  for (const text of texts) for (const word of wordsOf(text)) add("text", word);
  return [...found.values()];
}
