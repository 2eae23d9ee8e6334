/** The bytes of a coded word: read from text, its fields taken out and put in, its checksum. */
import { CoreError } from "../model/errors";
import type { ChecksumKind, CodedField, CodedWord } from "./map";

/** What is checked of a word. */
type Checked = Pick<CodedWord, "length" | "checksum">;

/** Text that is no word of bytes, or one of another length. */
export class WordError extends CoreError {}

/** Longest word that is read; no data identifier in use is longer. */
const MAX_BYTES = 512;

/**
 * Bytes from text as it is pasted: any spacing, `0x`, commas, dashes, with or without line ends.
 *
 * @throws {WordError} for other characters, half a byte, or nothing at all
 * @example bytesFromHex("0x0A 1b-2C") // [10, 27, 44]
 */
export function bytesFromHex(text: string, where = "coded word"): number[] {
  const digits = text.replace(/0x/gi, "").replace(/[\s,;:._-]+/g, "");
  const strange = /[^0-9a-f]/i.exec(digits);
  if (strange)
    throw new WordError(
      where,
      `“${strange[0]}” is no hexadecimal digit.`,
      "Enter the digits 0 to 9 and A to F, in any spacing.",
    );
  if (digits === "") throw new WordError(where, "nothing is entered.", "Enter the word as it was read from the car.");
  if (digits.length % 2 !== 0)
    throw new WordError(
      where,
      `${digits.length} digits are no whole bytes.`,
      "A byte has two digits; one is missing or one too many.",
    );
  if (digits.length > 2 * MAX_BYTES)
    throw new WordError(where, `${digits.length / 2} bytes are too many.`, "Enter one word at a time.");
  return Array.from({ length: digits.length / 2 }, (_, i) => Number.parseInt(digits.slice(2 * i, 2 * i + 2), 16));
}

/** @example hexFromBytes([10, 27]) // "0A 1B" */
export function hexFromBytes(bytes: readonly number[]): string {
  return bytes.map((b) => b.toString(16).toUpperCase().padStart(2, "0")).join(" ");
}

/** What speaks against bytes being this word; null when nothing does. */
export function wordProblem(word: Checked, bytes: readonly number[]): { problem: string; remedy: string } | null {
  if (bytes.length !== word.length)
    return {
      problem: `it has ${bytes.length} bytes, in the coding map ${word.length}.`,
      remedy:
        bytes.length < word.length
          ? "Some of it is missing: read or copy it again."
          : "There is too much: copy this word only, or correct the coding map.",
    };
  if (!word.checksum) return null;
  const want = checksum(word, bytes);
  const got = bytes[word.checksum.byte] ?? 0;
  if (want === got) return null;
  return {
    problem: `its check byte is ${hexFromBytes([got])}; the others give ${hexFromBytes([want])}.`,
    remedy: "A digit is wrong, the unit was interrupted while writing, or the coding map is for another one.",
  };
}

/** @throws {WordError} when the bytes cannot be this word */
export function checkWord(word: CodedWord, bytes: readonly number[], where = word.name): void {
  const found = wordProblem(word, bytes);
  if (found) throw new WordError(where, found.problem, found.remedy);
}

/** Bit numbers of a field, least weight first: byte × 8 + bit. */
export function fieldBits({ byte, bit, width, order = "little" }: CodedField): number[] {
  return Array.from({ length: width }, (_, i) => {
    const at = bit + i;
    const away = Math.floor(at / 8);
    return 8 * (order === "little" ? byte + away : byte - away) + (at % 8);
  });
}

/** Raw value of a field. */
export function fieldValue(field: CodedField, bytes: readonly number[]): number {
  return fieldBits(field).reduce((sum, b, i) => sum + (((bytes[b >> 3] ?? 0) >> (b & 7)) & 1) * 2 ** i, 0);
}

/** The word with other values in some of its fields. All other bits stay; a check byte is computed anew. */
export function withFields(
  word: CodedWord,
  bytes: readonly number[],
  values: ReadonlyMap<CodedField, number>,
): number[] {
  const next = [...bytes];
  for (const [field, raw] of values) {
    fieldBits(field).forEach((b, i) => {
      const on = Math.floor(raw / 2 ** i) % 2 === 1;
      const byte = next[b >> 3] ?? 0;
      next[b >> 3] = on ? byte | (1 << (b & 7)) : byte & ~(1 << (b & 7));
    });
  }
  if (word.checksum) next[word.checksum.byte] = checksum(word, next);
  return next;
}

/** Bits that differ, as bit numbers. The check byte counts like any other. */
export function changedBits(before: readonly number[], after: readonly number[]): number[] {
  return before.flatMap((b, i) => {
    const differs = b ^ (after[i] ?? 0);
    return [0, 1, 2, 3, 4, 5, 6, 7].filter((bit) => (differs >> bit) & 1).map((bit) => 8 * i + bit);
  });
}

function checksum({ checksum: c }: Checked, bytes: readonly number[]): number {
  if (!c) return 0;
  return CHECKSUM[c.kind](bytes.filter((_, i) => i !== c.byte));
}

/**
 * Checksums of a list of bytes. The CRCs have their parameters from the catalogue of parametrised CRC algorithms (from
 * memory): polynomial, start FF, final exclusive or FF.
 */
export const CHECKSUM: Readonly<Record<ChecksumKind, (bytes: readonly number[]) => number>> = {
  sum: (bytes) => bytes.reduce((sum, b) => (sum + b) & 0xff, 0),
  xor: (bytes) => bytes.reduce((sum, b) => sum ^ b, 0),
  "crc8 SAE J1850": (bytes) => crc8(bytes, 0x1d),
  "crc8 8H2F": (bytes) => crc8(bytes, 0x2f),
};

function crc8(bytes: readonly number[], polynomial: number): number {
  let crc = 0xff;
  for (const b of bytes) {
    crc ^= b;
    for (let i = 0; i < 8; i++) crc = ((crc << 1) ^ (crc & 0x80 ? polynomial : 0)) & 0xff;
  }
  return crc ^ 0xff;
}
