/** Coding maps: where the control units of a car keep their coded words, and what the bits of these words mean. */
import type { DocumentHead, KitCondition } from "../model/profile";

export interface CodingMap extends DocumentHead {
  document: "coding";
  /** Identifier of the car it is about. */
  car: string;
  units: CodedUnit[];
}

/** Why a unit is never written by this program. */
export const LOCKED_KINDS = ["immobiliser", "airbag", "brakes", "steering", "odometer", "emissions"] as const;
export type LockedKind = (typeof LOCKED_KINDS)[number];

/** Why, in words; the work on these belongs to the maker's procedure, licensed people and local law. */
export const LOCKED_WORDS: Readonly<Record<LockedKind, string>> = {
  immobiliser: "it is part of the immobiliser",
  airbag: "it is part of the airbag system",
  brakes: "it is part of the brakes",
  steering: "it is part of the steering",
  odometer: "it keeps the odometer",
  emissions: "it is part of the exhaust control",
};

export interface CodedUnit {
  id: string;
  name: string;
  /** The part of the car that it is, where the model knows it. */
  part?: string;
  /** CAN identifiers on which it listens and answers. */
  request: number;
  answer: number;
  /** 29-bit identifiers. */
  extended?: boolean;
  /** Extended addressing of ISO 15765-2: its address and that of the tester, as first byte of every frame. */
  node?: { unit: number; tester: number };
  /** Seen, never offered. */
  locked?: LockedKind;
  /** It answers only while the gateway has it in its list: `unit.word.field` at one of these raw values. */
  listed?: { field: FieldRef; is: number[] };
  /** It wants a key before it lets itself be written: level of the seed. */
  access?: number;
  words: CodedWord[];
}

export const CHECKSUMS = ["sum", "xor", "crc8 SAE J1850", "crc8 8H2F"] as const;
export type ChecksumKind = (typeof CHECKSUMS)[number];

/** The bytes behind one data identifier. */
export interface CodedWord {
  id: string;
  name: string;
  /** Data identifier, 16 bits. */
  identifier: number;
  /** In bytes. */
  length: number;
  /** One byte that follows from all others. */
  checksum?: { kind: ChecksumKind; byte: number };
  fields: CodedField[];
}

/** `unit.word.field`. */
export type FieldRef = string;

/**
 * Some bits of a word that belong together. Byte 0 is the first one, bit 0 the one of least weight. `byte` and `bit` are
 * those of the bit of least weight; wider fields go on in the byte after it (`little`) or before it (`big`).
 */
export interface CodedField {
  id: string;
  label: string;
  byte: number;
  bit: number;
  width: number;
  order?: "little" | "big";
  /** Heading under which it is shown: what it is about. */
  about: string;
  /** What the values mean; a value that is not listed is not known and never written. */
  values?: CodedValue[];
  /** For a plain number: value = raw × factor + offset. */
  number?: { factor: number; offset: number; unit: string; min?: number; max?: number };
  /** The setting (`part.setting`) of the model that this field is. */
  setting?: string;
  /** With one of these values, another field must have one of those. */
  needs?: { with: number[]; field: FieldRef; is: number[]; say: string }[];
  /** Of the fields of a group at most one is not zero. */
  group?: string;
  /** What the car itself says: where the condition holds, only these values are right. */
  facts?: { when: KitCondition; is: number[]; because: string }[];
}

export interface CodedValue {
  raw: number;
  label: string;
  /** Value of the setting that it stands for. */
  setting?: string;
}

/** A field with the word and the unit it lies in. */
export interface FieldPlace {
  ref: FieldRef;
  unit: CodedUnit;
  word: CodedWord;
  field: CodedField;
}

export function wordRef(unit: Pick<CodedUnit, "id">, word: Pick<CodedWord, "id">): string {
  return `${unit.id}.${word.id}`;
}

export function fieldPlaces(map: Pick<CodingMap, "units">): FieldPlace[] {
  return map.units.flatMap((unit) =>
    unit.words.flatMap((word) =>
      word.fields.map((field) => ({ ref: `${wordRef(unit, word)}.${field.id}`, unit, word, field })),
    ),
  );
}

/** The words of all units with the places of their fields. */
export function codedWords(map: Pick<CodingMap, "units">) {
  const places = fieldPlaces(map);
  return map.units.flatMap((unit) =>
    unit.words.map((word) => ({
      ref: wordRef(unit, word),
      unit,
      word,
      places: places.filter((p) => p.unit === unit && p.word === word),
    })),
  );
}

/** What a value of a field means; null when the map does not know it. */
export function valueWords(field: CodedField, raw: number): string | null {
  const known = field.values?.find((v) => v.raw === raw);
  if (known) return known.label;
  if (!field.number) return null;
  const { factor, offset, unit } = field.number;
  const value = Number((raw * factor + offset).toPrecision(10));
  return unit ? `${value} ${unit}` : String(value);
}

/** The raw values that a field may be given. */
export function knownValues(field: CodedField): number[] {
  if (field.values) return field.values.map((v) => v.raw);
  const { number: n } = field;
  if (!n) return [];
  const all = Array.from({ length: 2 ** Math.min(field.width, 8) }, (_, raw) => raw);
  return all.filter((raw) => {
    const value = raw * n.factor + n.offset;
    return value >= (n.min ?? Number.NEGATIVE_INFINITY) && value <= (n.max ?? Number.POSITIVE_INFINITY);
  });
}
