/** What Configure shows of the control units and their coded words. */
import {
  type CodedField,
  type CodedWord,
  codedWords,
  type FieldPlace,
  LOCKED_WORDS,
  valueWords,
  wordRef,
} from "../coding/map";
import { changedBits, fieldBits, fieldValue, hexFromBytes, wordProblem } from "../coding/word";
import { codingOf, type FieldChange } from "../job/coding";
import type { Job } from "../job/job";
import type { WordEvent } from "../log/kinds/configure/words";
import type { PredictedCode } from "../model/monitors";

export type CodingView = NonNullable<ReturnType<typeof codingView>>;
export type WordView = CodingView["words"][number];
export type UnitView = CodingView["units"][number];

/** Codes of the last scan of the control units as text that Intake and Prove take; null when there was none. */
export function scannedCodes({ codingMap, state, plan }: Job): { text: string; at: string } | null {
  const read = (codingMap?.units ?? []).flatMap((unit) => {
    const seen = state.units.get(unit.id);
    return seen?.codes ? [{ name: unit.name, codes: seen.codes, at: seen.codesAt }] : [];
  });
  if (read.length === 0) return null;
  const said = new Map((plan.fitted.monitors ?? []).map((m) => [m.code, m.say]));
  const lines = read.flatMap((u) =>
    u.codes.length > 0 ? [`${u.name}:`, ...u.codes.map((c) => `${c.code} ${said.get(c.code) ?? ""}`.trim())] : [],
  );
  return { text: lines.join("\n"), at: read.map((u) => u.at).sort()[0] ?? "" };
}

/** Bit of the status byte: the test fails now (ISO 14229-1, from memory). */
const TEST_FAILED = 0x01;

/** Null while no coding map is taken. */
export function codingView(job: Job) {
  const coding = codingOf(job);
  if (!coding) return null;
  const { map, words } = coding;
  const { state } = job;
  const decisive = new Set(coding.decisive.map((d) => d.place.ref));
  return {
    map: { title: map.title, slug: map.id, version: map.version },
    units: map.units.map((unit) => {
      const seen = state.units.get(unit.id) ?? null;
      const predicted = coding.codesNow?.filter((c) => c.part === unit.part) ?? null;
      return {
        id: unit.id,
        name: unit.name,
        locked: unit.locked ? LOCKED_WORDS[unit.locked] : null,
        address: {
          request: unit.request,
          answer: unit.answer,
          ...(unit.extended ? { extended: true } : {}),
          ...(unit.node ? { node: unit.node } : {}),
        },
        listed: unit.listed !== undefined,
        /** The model has codes for it. */
        watched: (job.plan.fitted.monitors ?? []).some((m) => m.by === unit.part),
        /** Predicted codes that it does not know at all. */
        strange: (predicted ?? []).flatMap((p) =>
          seen?.supported && !seen.supported.includes(p.code) ? [p.code] : [],
        ),
        seen: seen && { answered: seen.answered, part: seen.part, software: seen.software, at: seen.at },
        codes: seen?.codes
          ? seen.codes.map((c) => ({ ...c, active: (c.status & TEST_FAILED) !== 0, ...expected(c.code, predicted) }))
          : null,
      };
    }),
    words: codedWords(map)
      .filter(({ unit }) => !unit.locked)
      .map(({ ref, unit, word, places }) => {
        const bytes = words.get(ref) ?? null;
        const change = coding.changes.find((c) => c.word === ref) ?? null;
        const history = state.words.get(ref) ?? [];
        const stands = history.at(-1)?.bytes ?? null;
        const view = (field: CodedField, own: string) =>
          fieldView(job, field, own, bytes, change?.fields.find((f) => f.place.ref === own) ?? null, decisive.has(own));
        return {
          ref,
          unit: unit.id,
          title: `${unit.name}: ${word.name}`,
          identifier: word.identifier,
          length: word.length,
          access: unit.access ?? null,
          bytes: bytes && [...bytes],
          after: change && [...change.after],
          /** How many settings change. */
          changes: change?.fields.length ?? 0,
          checksum: word.checksum,
          /** Bits that the map knows. */
          known: places.flatMap((p) => fieldBits(p.field)),
          /** When it was last read. */
          at: history.at(-1)?.at ?? "",
          wanted: coding.unread.find((u) => u.word === ref)?.fields ?? [],
          standing: standingOf({
            read: bytes !== null,
            changes: change !== null,
            waits: coding.waiting.has(ref),
            decides: places.some((p) => decisive.has(p.ref)),
            settled: coding.conflict.length === 0 && !coding.undecided,
          }),
          /** Words to be read before this one can be judged. */
          waitsFor: coding.waiting.get(ref) ?? [],
          /** As it was last read, whether or not it can be this word. */
          stands: stands && [...stands],
          /** Why what was read cannot be this word. */
          unfit: stands && wordProblem(word, stands),
          /** Read, but not since the unit in the car is another one. */
          outdated: !bytes && stands !== null && !wordProblem(word, stands),
          notKnown: history.at(-1)?.bytes === null,
          groups: [...new Set(word.fields.map((f) => f.about))].map((about) => ({
            about,
            fields: places.filter((p) => p.field.about === about).map((p) => view(p.field, p.ref)),
          })),
          labels: places.map((p) => p.field.label),
          history: history.map((h, i) => historyView(h, history[i - 1], word, places)).reverse(),
        };
      }),
    settings: Object.fromEntries(
      codedWords(map).flatMap(({ unit, word }) =>
        word.fields.flatMap((f) => (f.setting && !unit.locked ? [[f.setting, wordRef(unit, word)]] : [])),
      ),
    ) as Record<string, string>,
    undecided: coding.undecided,
    conflict: coding.conflict.map((p) => `${p.unit.name}, ${p.field.label}`),
    codesNow: coding.codesNow?.map(codeLine) ?? null,
    codesThen: coding.codesThen?.map(codeLine) ?? null,
  };
}

/**
 * What is known of a word: `unread`; `change`: something is to be written; `waits`: it was read, and another word must
 * be read or a conflict settled before it can be judged; `right`: the job depends on it and has what it needs; `noMatter`:
 * nothing of the job depends on it.
 */
export type WordStanding = "unread" | "change" | "waits" | "right" | "noMatter";

function standingOf(w: Record<"read" | "changes" | "waits" | "decides" | "settled", boolean>): WordStanding {
  if (!w.read) return "unread";
  if (w.changes) return "change";
  if (w.waits || (w.decides && !w.settled)) return "waits";
  return w.decides ? "right" : "noMatter";
}

function fieldView(
  { plan }: Job,
  field: CodedField,
  ref: string,
  bytes: readonly number[] | null,
  change: FieldChange | null,
  decisive: boolean,
) {
  const raw = bytes && fieldValue(field, bytes);
  return {
    ref,
    label: field.label,
    /** Null when it was not read. */
    value: raw === null ? null : saidBy(field, raw),
    to: change && (valueWords(field, change.to) ?? String(change.to)),
    why: change?.why ?? [],
    /** What the car itself says about it, and whether the value agrees; nothing is said of one that was not read. */
    facts: (field.facts ?? [])
      .filter((f) => plan.applies({ when: f.when }))
      .map((f) => ({ because: f.because, agrees: raw === null || f.is.includes(raw) })),
    decisive,
  };
}

function saidBy(field: CodedField, raw: number): string {
  return valueWords(field, raw) ?? `not known (${raw})`;
}

const HOW: Readonly<Record<WordEvent["how"], string>> = {
  read: "read",
  entered: "entered by hand",
  written: "written and read back",
  differs: "written, read back as something else",
  notReadBack: "sent, not read back",
};

function historyView(
  { bytes, how, at, by, entry }: WordEvent,
  before: WordEvent | undefined,
  word: CodedWord,
  places: readonly FieldPlace[],
) {
  return {
    entry,
    at,
    by,
    how: HOW[how],
    bytes: bytes && [...bytes],
    hex: bytes && hexFromBytes(bytes),
    changed: bytes && before?.bytes ? changedBits(before.bytes, bytes).length : null,
    /** What its fields say, in the order of `labels`; null when it cannot be this word. */
    values: bytes && !wordProblem(word, bytes) ? places.map((p) => saidBy(p.field, fieldValue(p.field, bytes))) : null,
  };
}

function codeLine({ code, say, by }: PredictedCode): string {
  return `${by}: ${code} ${say}`;
}

/** Whether a stored code was predicted; null while the prediction is not known. */
function expected(code: string, predicted: readonly PredictedCode[] | null) {
  const found = predicted?.find((p) => p.code === code);
  return { say: found?.say ?? null, predicted: predicted === null ? null : found !== undefined };
}
