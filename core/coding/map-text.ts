/**
 * Coding maps out of text: a table with a field a row, or the lines of a leaflet. Every line is read, refused with its
 * number and reason, or is empty or a comment; none is skipped in silence.
 */
import Papa from "papaparse";
import { CHECKSUMS, type ChecksumKind, type CodedUnit, type CodedValue, type CodedWord } from "./map";
import { Collected, hex, LineProblem } from "./map-lines";

export interface MapText {
  units: CodedUnit[];
  /** Fields that were read. */
  fields: number;
  problems: { line: number; problem: string }[];
}

const TABLE_COLUMNS = [
  "unit",
  "request",
  "answer",
  "word",
  "identifier",
  "length",
  "checksum",
  "field",
  "byte",
  "bit",
  "width",
  "order",
  "about",
  "values",
  "unit of value",
  "setting",
  "group",
] as const;

type Column = (typeof TABLE_COLUMNS)[number];

type Row = Partial<Record<Column, string>>;

/** More lines than the map of one car has. */
const MAX_LINES = 4000;

/**
 * Reads a coding map from text: a table with a header line (comma, semicolon or tab), else the lines of a leaflet.
 *
 * In a table a cell that is empty says the same as the one above it where that names unit or word. In a leaflet stand
 * `Radio, 773, 7DD`; `Word 0600 Sound, 8 bytes`; `Byte 3 bit 5: Tweeters watched, 0 no, 1 yes`.
 */
export function readMapText(whole: string): MapText {
  const lines = whole.split("\n");
  const text = lines.slice(0, MAX_LINES).join("\n");
  const map = readLines(text);
  if (lines.length > MAX_LINES)
    map.problems.push({
      line: MAX_LINES + 1,
      problem: `Nothing is read from line ${MAX_LINES + 1} on. Take the map in parts.`,
    });
  return map;
}

function readLines(text: string): MapText {
  const first = text.split(/\r?\n/).find((l) => !isEmpty(l)) ?? "";
  const cells = first.split(/[,;\t]/).map(plain);
  return cells.includes("field") && cells.includes("byte") ? readTable(text) : readLeaflet(text);
}

function readTable(text: string): MapText {
  const { data } = Papa.parse<string[]>(text, { skipEmptyLines: false });
  const at = data.findIndex((r) => !isEmpty(r.join("")));
  const header = (data[at] ?? []).map(plain);
  const strange = header.filter((h) => h !== "" && !TABLE_COLUMNS.includes(h as Column));
  const collected = new Collected();
  const problems: MapText["problems"] = strange.map((h) => ({
    line: at + 1,
    problem: `The column “${h}” is not known; it is not read. Columns are: ${TABLE_COLUMNS.join(", ")}.`,
  }));
  for (const [i, cells] of data.entries()) {
    if (i <= at || isEmpty(cells.join(""))) continue;
    const row = Object.fromEntries(header.map((h, c) => [h, cellText(cells[c])])) as Row;
    attempt(problems, i + 1, () => takeRow(collected, row));
  }
  return { units: collected.units, fields: collected.fields, problems };
}

/** A cell without the mark that keeps a spreadsheet from running it as a formula. */
function cellText(cell: string | undefined): string {
  return (cell ?? "").trim().replace(/^'(?=[=+\-@])/, "");
}

function takeRow(to: Collected, row: Row): void {
  if (row.unit)
    to.inUnit(row.unit, row.request ? hexNumber(row.request) : null, row.answer ? hexNumber(row.answer) : null);
  if (row.identifier) {
    const identifier = hexNumber(row.identifier);
    if (to.word?.identifier !== identifier || row.length)
      to.inWord(
        row.word || `Word ${hex(identifier)}`,
        identifier,
        row.length ? whole(row.length, "length") : null,
        checksumOf(row.checksum),
      );
  }
  if (!row.field) return;
  const numbers = /^\s*([-+]?[\d.]+)\s*\*\s*x\s*(?:([-+])\s*([\d.]+))?$/i.exec(row.values ?? "");
  to.addField({
    label: row.field,
    byte: whole(row.byte ?? "", "byte"),
    bit: whole(row.bit || "0", "bit", 7),
    width: whole(row.width || "1", "width", 32),
    ...(row.order ? { order: orderOf(row.order) } : {}),
    about: row.about || to.word?.name || "Settings",
    ...(numbers
      ? {
          number: {
            factor: Number(numbers[1]),
            offset: Number(`${numbers[2] ?? ""}${numbers[3] ?? 0}`),
            unit: row["unit of value"] ?? "",
          },
        }
      : valuesOf(row.values ?? "")),
    ...(row.setting ? { setting: row.setting } : {}),
    ...(row.group ? { group: row.group } : {}),
  });
}

const UNIT_LINE =
  /^(?:unit\s*:?\s*)?([^,:;()]{2,60}?)[,:;(\s]+(?:0x)?([0-9a-f]{3,8})h?\s*(?:[/,;]|->|→|and)\s*(?:0x)?([0-9a-f]{3,8})h?\)?\.?$/i;

const WORD_LINE =
  /^(?:word|identifier|did|coding)\s*:?\s*(?:0x)?([0-9a-f]{4})h?\b[\s,:;-]*(.*?)[\s,;(]*\b(\d{1,3})\s*bytes?\)?[\s,;]*(.*)$/i;

const FIELD_LINE =
  /^byte\s*(\d{1,3})[\s,;]*(?:bits?\s*(\d)(?:\s*(?:-|–|to|\.\.)\s*(\d{1,2}))?|(whole|all bits))?\s*[:=,;-]\s*(.+)$/i;

function readLeaflet(text: string): MapText {
  const collected = new Collected();
  const problems: MapText["problems"] = [];
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.replace(/^[\s•*–-]+/, "").trim();
    if (isEmpty(line)) continue;
    attempt(problems, i + 1, () => takeLine(collected, line));
  }
  return { units: collected.units, fields: collected.fields, problems };
}

function takeLine(to: Collected, line: string): void {
  const field = FIELD_LINE.exec(line);
  if (field) {
    const [, byte = "", low = "0", high, , rest = ""] = field;
    const width = field[4] || !field[2] ? 8 : Math.abs(Number(high ?? low) - Number(low)) + 1;
    const cut = rest.search(/[\s(,;:]\s*(?:0x[0-9a-f]{1,2}|\d{1,3})\s*(?:=|:|is\b|-|\s)\s*[A-Za-z0-9]/i);
    const told = valuesOf(cut < 0 ? "" : rest.slice(cut + 1).replace(/\)\s*\.?$/, ""));
    // “Bit 5 of 3” and the like: without two values it is a label with a number in it.
    const label = (told.values ? rest.slice(0, cut) : rest).replace(/[\s,;:(]+$/, "").trim();
    to.addField({
      label,
      byte: Number(byte),
      bit: Math.min(Number(low), Number(high ?? low)),
      width,
      about: to.word?.name ?? "Settings",
      ...told,
    });
    return;
  }
  const word = WORD_LINE.exec(line);
  if (word) {
    const [, identifier = "", name = "", length = "", more = ""] = word;
    to.inWord(name || `Word ${identifier}`, Number.parseInt(identifier, 16), Number(length), checksumOf(more));
    return;
  }
  const unit = UNIT_LINE.exec(line);
  if (unit) {
    to.inUnit((unit[1] ?? "").trim(), Number.parseInt(unit[2] ?? "", 16), Number.parseInt(unit[3] ?? "", 16));
    return;
  }
  throw new LineProblem("It says no control unit, no word and no byte that could be understood.");
}

/** `0 = no; 1 = yes`, `0 no, 1 yes`: at least one pair, or nothing. @throws {LineProblem} for a number that stands twice */
function valuesOf(text: string): { values?: CodedValue[] } {
  const pairs = text.split(/[;,|/](?=\s*(?:0x)?\d)/).flatMap((part): CodedValue[] => {
    const found = /^\s*(?:0x([0-9a-f]{1,8})|(\d{1,10}))\s*(?:=|:|is\b|-)?\s*(.+?)\s*$/i.exec(part);
    if (!found) return [];
    const [label = "", setting] = (found[3] ?? "").split(">").map((t) => t.trim());
    const raw = found[1] ? Number.parseInt(found[1], 16) : Number(found[2]);
    return [{ raw, label, ...(setting ? { setting } : {}) }];
  });
  const twice = pairs.find((p, i) => pairs.findIndex((q) => q.raw === p.raw) !== i);
  if (twice) throw new LineProblem(`The value ${twice.raw} has two meanings.`);
  if (text.trim() !== "" && pairs.length === 0 && /=/.test(text))
    throw new LineProblem(`“${text.trim()}” are no values: write 0 = no; 1 = yes, or 0.5 * x - 40 for a number.`);
  return pairs.length > 0 ? { values: pairs } : {};
}

function checksumOf(text: string | undefined): CodedWord["checksum"] {
  if (!text?.trim()) return undefined;
  const byte = /byte\s*(\d{1,3})/i.exec(text)?.[1];
  const kind = CHECKSUMS.find((k) => plain(text).includes(plain(k)));
  if (!kind || byte === undefined)
    throw new LineProblem(
      `“${text.trim()}” is no check byte: write one of ${CHECKSUMS.join(", ")} with its byte, as “xor byte 7”.`,
    );
  return { kind: kind as ChecksumKind, byte: Number(byte) };
}

function orderOf(text: string): "little" | "big" {
  if (/^(little|lsb)/i.test(text)) return "little";
  if (/^(big|msb)/i.test(text)) return "big";
  throw new LineProblem(`“${text}” is no byte order: little or big.`);
}

function hexNumber(text: string): number {
  if (!/^(0x)?[0-9a-f]{1,8}h?$/i.test(text)) throw new LineProblem(`“${text}” is no hexadecimal number.`);
  return Number.parseInt(text.replace(/^0x|h$/gi, ""), 16);
}

function whole(text: string, what: string, most = 512): number {
  const value = Number(text);
  if (text.trim() === "" || !Number.isInteger(value) || value < 0 || value > most)
    throw new LineProblem(`“${text}” is no ${what}: a whole number from 0 to ${most}.`);
  return value;
}

function attempt(problems: MapText["problems"], line: number, take: () => void): void {
  try {
    take();
  } catch (error) {
    if (!(error instanceof LineProblem)) throw error;
    problems.push({ line, problem: error.message });
  }
}

const plain = (text: string) => text.trim().toLowerCase().replace(/\s+/g, " ");

function isEmpty(line: string): boolean {
  return /^[\s,;\t]*(#|\/\/|$)/.test(line);
}

/** The fields of a map as rows of a table; dependencies, facts and locks are not in it. */
export function mapTable(units: readonly CodedUnit[]): Record<Column, string | number>[] {
  return units.flatMap((unit) =>
    unit.words.flatMap((word) =>
      word.fields.map((f) => ({
        unit: unit.name,
        request: hex(unit.request),
        answer: hex(unit.answer),
        word: word.name,
        identifier: word.identifier.toString(16).toUpperCase().padStart(4, "0"),
        length: word.length,
        checksum: word.checksum ? `${word.checksum.kind} byte ${word.checksum.byte}` : "",
        field: f.label,
        byte: f.byte,
        bit: f.bit,
        width: f.width,
        order: f.order ?? "",
        about: f.about,
        values: f.number
          ? `${f.number.factor} * x ${f.number.offset < 0 ? "-" : "+"} ${Math.abs(f.number.offset)}`
          : (f.values ?? []).map((v) => `${v.raw} = ${v.label}${v.setting ? ` > ${v.setting}` : ""}`).join("; "),
        "unit of value": f.number?.unit ?? "",
        setting: f.setting ?? "",
        group: f.group ?? "",
      })),
    ),
  );
}
