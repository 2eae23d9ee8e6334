/** What a log of diagnostic frames proves about the control units of a car. Nothing else is believed. */
import type { Frames } from "../bus/frames";
import { type Exchange, exchanges } from "../diagnostics/transcript";
import { IDENTIFICATION, SERVICE } from "../diagnostics/uds";
import { codesFromAnswer } from "../intake/fault-codes";
import { type CodedUnit, type CodedWord, type CodingMap, wordRef } from "./map";
import { hexFromBytes } from "./word";

export interface UnitEvidence {
  unit: string;
  /** It answered at all. */
  answered: boolean;
  part: string | null;
  software: string | null;
  /** Stored codes, with what the unit keeps beside them as hexadecimal; null when they were not read. */
  codes: { code: string; status: number; records?: string | undefined }[] | null;
  /** Codes that it knows at all; null when it was not asked. */
  supported?: string[] | null | undefined;
  cleared: boolean;
}

export interface WordEvidence {
  /** `unit.word`. */
  word: string;
  /** As it stood at the end; null when it was written and not read back: then it is not known. */
  bytes: number[] | null;
  /** `written`: sent, accepted, and read back as it was sent. `differs`: read back as something else. */
  how: "read" | "written" | "differs" | "notReadBack";
  /** What was sent, where something was. */
  sent: number[] | null;
}

export interface Evidence {
  units: UnitEvidence[];
  words: WordEvidence[];
}

/** Units that were not asked are left out. */
export function evidenceOf(map: CodingMap, frames: Frames): Evidence {
  const asked = map.units
    .map((unit) => ({ unit, list: exchanges(frames, unit) }))
    .filter(({ list }) => list.length > 0);
  return {
    units: asked.map(({ unit, list }) => unitEvidence(unit, list)),
    words: asked.flatMap(({ unit, list }) => unit.words.flatMap((word) => wordEvidence(unit, word, list) ?? [])),
  };
}

function unitEvidence(unit: CodedUnit, list: readonly Exchange[]): UnitEvidence {
  const codes = last(list, (x) => x.request[0] === SERVICE.readCodes && x.request[1] === 0x02);
  const positive = codes?.answer?.kind === "positive" ? codes.answer.data : null;
  return {
    unit: unit.id,
    answered: list.some((x) => x.answer !== null),
    part: textOf(list, IDENTIFICATION.part),
    software: textOf(list, IDENTIFICATION.software),
    codes: positive && (readCodes(positive)?.map((c) => ({ ...c, ...recordsOf(list, c.code) })) ?? null),
    supported: supportedBy(list),
    cleared: last(list, (x) => x.request[0] === SERVICE.clearCodes)?.answer?.kind === "positive",
  };
}

/** What a unit keeps beside a code, as it came last. */
function recordsOf(list: readonly Exchange[], code: string): { records?: string } {
  const found = list.findLast(
    ({ request, answer }) =>
      request[0] === SERVICE.readCodes &&
      request[1] === 0x06 &&
      answer?.kind === "positive" &&
      answer.data.length > 4 &&
      readCodes([0xff, ...answer.data.slice(0, 4)])?.[0]?.code === code,
  );
  return found?.answer?.kind === "positive" ? { records: hexFromBytes(found.answer.data.slice(4)) } : {};
}

function supportedBy(list: readonly Exchange[]): string[] | null {
  const found = last(list, (x) => x.request[0] === SERVICE.readCodes && x.request[1] === 0x0a);
  if (found?.answer?.kind !== "positive") return null;
  return readCodes(found.answer.data)?.map((c) => c.code) ?? null;
}

/** An answer that is cut off holds nothing that could be believed. */
function readCodes(data: readonly number[]): { code: string; status: number }[] | null {
  try {
    return codesFromAnswer(Uint8Array.from([0x59, 0x02, ...data]));
  } catch (error) {
    if (error instanceof RangeError) return null;
    throw error;
  }
}

function wordEvidence(unit: CodedUnit, word: CodedWord, list: readonly Exchange[]): WordEvidence | null {
  let found: WordEvidence | null = null;
  const ref = wordRef(unit, word);
  for (const { request, answer } of list) {
    if (((request[1] ?? 0) << 8) + (request[2] ?? 0) !== word.identifier) continue;
    // A write that was refused left the word alone; one without an answer may have changed it.
    if (request[0] === SERVICE.writeData && answer?.kind !== "refused")
      found = { word: ref, bytes: null, how: "notReadBack", sent: request.slice(3) };
    if (request[0] !== SERVICE.readData || answer?.kind !== "positive") continue;
    const sent: number[] | null = found?.sent ?? null;
    const same = sent?.length === answer.data.length && sent.every((b, i) => b === answer.data[i]);
    found = { word: ref, bytes: answer.data, how: sent ? (same ? "written" : "differs") : "read", sent };
  }
  return found;
}

function textOf(list: readonly Exchange[], id: number): string | null {
  const found = last(
    list,
    (x) => x.request[0] === SERVICE.readData && x.request[1] === id >> 8 && x.request[2] === (id & 255),
  );
  if (found?.answer?.kind !== "positive") return null;
  const text = String.fromCharCode(...found.answer.data.filter((b) => b >= 0x20 && b < 0x7f)).trim();
  return text === "" ? null : text;
}

function last(list: readonly Exchange[], test: (x: Exchange) => boolean): Exchange | null {
  return list.filter(test).at(-1) ?? null;
}
