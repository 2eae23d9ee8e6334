/** The coded words of a job: how they stand, the least change that it needs, what the car will store for it. */
import { type CodedField, type CodingMap, type FieldPlace, fieldPlaces, knownValues, wordRef } from "../coding/map";
import { leastChange, type Variable } from "../coding/solve";
import { fieldValue, wordProblem } from "../coding/word";
import { lostWith } from "../configure/setting-values";
import { type PredictedCode, predictedCodes } from "../model/monitors";
import { Model } from "../model/outcome";
import type { Settings } from "../model/types";
import { reasons, rulesOf, unreadWords, waitingWords, withNeeds, wordChanges } from "./coding-words";
import type { Job } from "./job";
import type { JobPlan } from "./plan";

/** Words as they stand, by `unit.word`. */
export type Words = ReadonlyMap<string, readonly number[]>;

/** What goes wrong while a field has a value that it should not have. */
export interface Harm {
  /** Functions that are wanted and lost. */
  functions: { id: string; name: string }[];
  codes: PredictedCode[];
}

/** A field that decides about something, with what each of its values does. */
export interface Decisive {
  place: FieldPlace;
  /** Raw values with which the job gets what it wants. */
  right: number[];
  harm: ReadonlyMap<number, Harm>;
  /** Why, where it is no harm that the model knows of. */
  because?: string;
}

export interface FieldChange {
  place: FieldPlace;
  from: number;
  to: number;
  /** What it is for, in sentences; never empty. */
  why: string[];
}

/** One word with other values. */
export interface WordChange {
  word: string;
  before: readonly number[];
  after: readonly number[];
  fields: FieldChange[];
}

export interface CodingPlan {
  decisive: Decisive[];
  /** Empty when everything stands as it should, as far as it is known. */
  changes: WordChange[];
  /** Fields that cannot have their right values together. */
  conflict: FieldPlace[];
  /** The map is too entangled for the least change to be found; nothing is proposed. */
  undecided: boolean;
  /** Words of which it is not known whether they stand as they should, though they were read: what they wait for. */
  waiting: ReadonlyMap<string, string[]>;
  /** Words that decide about something and are not known yet. */
  unread: { word: string; fields: string[] }[];
  /** Codes that the car stores with the words as they stand, and after the change; null while not all are known. */
  codesNow: PredictedCode[] | null;
  codesThen: PredictedCode[] | null;
}

/** Settings of the model as coded words say them. */
export function settingsOfWords(map: CodingMap, words: Words): Settings {
  const settings: Record<string, string> = {};
  for (const { unit, word, field } of fieldPlaces(map)) {
    const bytes = words.get(wordRef(unit, word));
    if (!field.setting || !bytes) continue;
    const value = field.values?.find((v) => v.raw === fieldValue(field, bytes))?.setting;
    if (value !== undefined) settings[field.setting] = value;
  }
  return settings;
}

/**
 * The least change of the coded words with which the job gets what it wants and the car stores nothing that could be
 * avoided. What a value does is asked of the model of the car as fitted, one field at a time beside the plan.
 */
export function codingPlan(plan: JobPlan, map: CodingMap, words: Words): CodingPlan {
  const model = new Model(plan.fitted, {}, plan.settings);
  const places = fieldPlaces(map).filter((p) => !p.unit.locked);
  const tried = places.flatMap((place) => decisiveOf(plan, model, place) ?? []);
  const gone = goneUnits(plan, map, places).filter((g) => !tried.some((t) => t.place === g.place));
  const decisive = [...tried, ...gone];
  const bytesOf = ({ unit, word }: FieldPlace) => words.get(wordRef(unit, word));
  const known = places.filter((p) => bytesOf(p) !== undefined);
  // What needs a word that nobody has read is not touched: the dependency could be broken unseen.
  const ready = decisive.filter((d) => withNeeds(d.place, places).every((p) => bytesOf(p) !== undefined));
  const goals = ready.map((d) => ({ key: d.place.ref, in: d.right }));
  const variables = known.map(
    (p): Variable => ({
      key: p.ref,
      now: fieldValue(p.field, bytesOf(p) ?? []),
      domain: rightForCar(plan, p.field),
    }),
  );
  const rules = rulesOf(known);
  const solution = leastChange(variables, rules, goals);
  const conflict =
    solution.kind === "contradiction" ? places.filter((p) => solution.goals.some((g) => g.key === p.ref)) : [];
  const changed = solution.kind === "solved" ? solution.changes : new Map<string, number>();
  const changes = wordChanges(map, words, changed, (p) => reasons(p, decisive, known, changed));
  const open = decisive.flatMap((d) => withNeeds(d.place, places)).filter((p) => !bytesOf(p));
  const unread = unreadWords(map, open);
  const after = new Map([...words, ...changes.map((c) => [c.word, c.after] as const)]);
  const codes = (w: Words) => predictedCodes(model, { ...plan.settings, ...settingsOfWords(map, w) });
  const all = unread.length === 0 && decisive.length > 0;
  return {
    decisive,
    changes,
    conflict,
    undecided: solution.kind === "undecided",
    waiting: waitingWords(
      decisive.map((d) => withNeeds(d.place, places)),
      bytesOf,
    ),
    unread,
    codesNow: all ? codes(words) : null,
    codesThen: all && solution.kind === "solved" ? codes(after) : null,
  };
}

/** The coding plan of a job with the words as they were last read; null while no coding map is taken. */
export function codingOf(job: Job): (CodingPlan & { map: CodingMap; words: Words }) | null {
  return job.once("coding", () => {
    const map = job.codingMap;
    if (!map) return null;
    const words = wordsNow(job, map);
    return { map, words, ...codingPlan(job.plan, map, words) };
  });
}

/**
 * Words as they were last read. A unit that the kit brings is another one once it is plugged: what was read before says
 * nothing about it.
 */
function wordsNow(job: Job, map: CodingMap): Words {
  const { plan, state, entries } = job;
  const own = new Set(plan.documents.kit.parts.map((p) => p.id));
  const pluggedAt = new Map<string, string>();
  for (const e of entries) {
    if (e.kind !== "connect.plug" || !e.data.plugged) continue;
    const link = plan.fitted.links.find((l) => l.id === e.data.link);
    for (const end of link ? [link.a, link.b] : []) pluggedAt.set(end.split(".")[0] ?? "", e.at);
  }
  const words = new Map<string, readonly number[]>();
  for (const unit of map.units)
    for (const word of unit.words) {
      const known = state.words.get(wordRef(unit, word))?.at(-1);
      const fitted = unit.part && own.has(unit.part) ? pluggedAt.get(unit.part) : undefined;
      if (known?.bytes && !wordProblem(word, known.bytes) && (!fitted || known.at >= fitted))
        words.set(wordRef(unit, word), known.bytes);
    }
  return words;
}

/** What each value of a field does; null for one that does nothing the model knows of. */
function decisiveOf(plan: JobPlan, model: Model, place: FieldPlace): Decisive | null {
  const { setting, values } = place.field;
  const part = plan.fitted.parts.find((p) => p.id === setting?.split(".")[0]);
  if (!setting || !part?.settings?.some((s) => `${part.id}.${s.id}` === setting)) return null;
  const harm = new Map(
    (values ?? []).flatMap((v) =>
      v.setting === undefined ? [] : [[v.raw, harmOf(plan, model, { [setting]: v.setting })] as const],
    ),
  );
  const weight = (h: Harm) => 1000 * h.functions.length + h.codes.length;
  const least = Math.min(...[...harm.values()].map(weight));
  const allowed = new Set(rightForCar(plan, place.field));
  const right = [...harm].filter(([raw, h]) => weight(h) === least && allowed.has(raw)).map(([raw]) => raw);
  return right.length > 0 && right.length < harm.size ? { place, right, harm } : null;
}

/** Units that leave the car with the kit, and still stand in the list of the gateway. */
function goneUnits({ stock, fitted }: JobPlan, map: CodingMap, places: readonly FieldPlace[]): Decisive[] {
  const has = (system: JobPlan["stock"], part: string) => system.parts.some((p) => p.id === part);
  return map.units.flatMap(({ part, listed, name }): Decisive[] => {
    const place = listed && places.find((p) => p.ref === listed.field);
    if (!part || !place || !has(stock, part) || has(fitted, part)) return [];
    const right = knownValues(place.field).filter((raw) => !listed.is.includes(raw));
    const because = `${name} leaves the car; while it is listed the gateway looks for it.`;
    return right.length > 0 ? [{ place, right, harm: new Map(), because }] : [];
  });
}

function harmOf(plan: JobPlan, model: Model, change: Settings): Harm {
  return {
    functions: lostWith(model, plan.settings, change).map(({ id, name }) => ({ id, name })),
    codes: predictedCodes(model, { ...plan.settings, ...change }),
  };
}

/** Values that the car itself does not speak against. */
export function rightForCar(plan: JobPlan, field: CodedField): number[] {
  const facts = (field.facts ?? []).filter((f) => plan.applies({ when: f.when }));
  return knownValues(field).filter((raw) => facts.every((f) => f.is.includes(raw)));
}
