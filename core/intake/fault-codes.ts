/** Fault codes as people bring them: typed, pasted, from a table or a reader. */
import Papa from "papaparse";
import { jsonDepth } from "../library/json-depth";

export interface FaultCode {
  /** Module that stores it; empty when the text does not say. */
  module: string;
  /** For example `P0133`. */
  code: string;
  text: string;
}

/** A line that could not be read, with its number and what to do. */
export interface FaultLineProblem {
  line: number;
  text: string;
  problem: string;
}

export interface FaultList {
  codes: FaultCode[];
  problems: FaultLineProblem[];
  format: "empty" | "text" | "csv" | "json";
}

const LETTERS = "PCBU";
const CODE = /\b([PCBU][0-3][0-9A-F]{3})(?:-([0-9A-F]{2}))?\b/i;
const BYTES = /(?:^|[\s:;,])((?:[0-9A-F]{2}[ ]?){2,3})(?=$|[\s:;,])/i;

/**
 * Fault code of two bytes: the top two bits choose P, C, B or U, the next two are the first digit, then three hex
 * digits. Source: SAE J2012 (from memory).
 *
 * @throws {RangeError} when a value is no byte
 * @example codeFromBytes(0x01, 0x33) // "P0133"
 */
export function codeFromBytes(high: number, low: number): string {
  for (const byte of [high, low])
    if (!Number.isInteger(byte) || byte < 0 || byte > 255) throw new RangeError(`${byte} is no byte (0 to 255)`);
  const hex = low.toString(16).toUpperCase().padStart(2, "0");
  return `${LETTERS[high >> 6]}${(high >> 4) & 3}${(high & 15).toString(16).toUpperCase()}${hex}`;
}

/**
 * Codes in a positive answer to “read fault codes by status mask”: `59 02`, the mask, then records of two bytes of
 * code, one byte of kind, one byte of status. Source: ISO 14229-1 (from memory).
 *
 * @throws {RangeError} when it is another answer or a record is cut off
 */
export function codesFromAnswer(bytes: Uint8Array): { code: string; status: number }[] {
  if (bytes[0] !== 0x59 || bytes[1] !== 0x02)
    throw new RangeError("not an answer to “read fault codes by status mask”");
  if ((bytes.length - 3) % 4 !== 0)
    throw new RangeError(`a record of 4 bytes is cut off (${bytes.length} bytes in all)`);
  const found: { code: string; status: number }[] = [];
  for (let at = 3; at < bytes.length; at += 4) {
    const [high = 0, low = 0, kind = 0, status = 0] = bytes.subarray(at, at + 4);
    const suffix = kind === 0 ? "" : `-${kind.toString(16).toUpperCase().padStart(2, "0")}`;
    found.push({ code: `${codeFromBytes(high, low)}${suffix}`, status });
  }
  return found;
}

/** The two bytes of a fault code; null for a text that is none. */
export function bytesFromCode(code: string): [number, number] | null {
  const match = /^([PCBU])([0-3])([0-9A-F])([0-9A-F]{2})$/i.exec(code.trim());
  if (!match) return null;
  const [, letter = "", first = "", second = "", rest = ""] = match;
  return [
    (LETTERS.indexOf(letter.toUpperCase()) << 6) | (Number(first) << 4) | Number.parseInt(second, 16),
    Number.parseInt(rest, 16),
  ];
}

/** Two bytes and the kind of failure of a code such as `B1A15` or `B1A15-13`; null for another text. */
export function dtcBytes(code: string): [number, number, number] | null {
  const [base = "", kind = "0"] = code.split("-");
  const bytes = bytesFromCode(base);
  return bytes && /^[0-9A-F]{1,2}$/i.test(kind) ? [...bytes, Number.parseInt(kind, 16)] : null;
}

/**
 * Reads fault codes from text as it is pasted: one a line with an optional module heading, a table with a header
 * line, or JSON. Bad lines are data; the good ones are kept.
 *
 * @example readFaultCodes("Radio\nB1234 open circuit\nU0100").codes
 * // [{module: "Radio", code: "B1234", text: "open circuit"}, {module: "Radio", code: "U0100", text: ""}]
 */
export function readFaultCodes(input: string): FaultList {
  const text = input.trim();
  if (text === "") return { codes: [], problems: [], format: "empty" };
  if (/^[[{]/.test(text)) return fromJson(text);
  const [first = ""] = text.split(/\r?\n/);
  if (/[;,\t]/.test(first) && /code/i.test(first)) return fromTable(text);
  return fromText(text);
}

function fromText(text: string): FaultList {
  const list: FaultList = { codes: [], problems: [], format: "text" };
  let module = "";
  /** A line taken for the name of a module, as long as nothing stands under it. */
  let heading: { line: number; text: string } | null = null;
  const leaveHeading = () => {
    if (heading) list.problems.push(problem(heading.line, heading.text, "No fault code stands on it or under it."));
    heading = null;
  };
  for (const [i, raw] of text.split(/\r?\n/).entries()) {
    const line = raw.trim();
    if (line === "") continue;
    const found = codeIn(line);
    if (found) {
      list.codes.push({ module: found.module || module, code: found.code, text: found.text });
      heading = null;
    } else if (/\d/.test(line) && /^[A-Z]\d|^0x|^[0-9A-F]{2}\b/i.test(line))
      list.problems.push(problem(i + 1, line, "It is no fault code. A code reads P0133, or two bytes 01 33."));
    else if (/(^|:\s*)(no|keine?|none)\b/i.test(line)) heading = null;
    else {
      leaveHeading();
      module = line.replace(/[:\-–]+$/, "").trim();
      heading = { line: i + 1, text: line };
    }
  }
  leaveHeading();
  return { ...list, problems: list.problems.sort((x, y) => x.line - y.line) };
}

/** The code of a line, in letters or as bytes, with what stands before (module) and after it. */
function codeIn(line: string): FaultCode | null {
  const letters = CODE.exec(line);
  if (letters) {
    const code = `${letters[1]?.toUpperCase()}${letters[2] ? `-${letters[2].toUpperCase()}` : ""}`;
    return {
      module: tidy(line.slice(0, letters.index)),
      code,
      text: tidy(line.slice(letters.index + letters[0].length)),
    };
  }
  const bytes = BYTES.exec(` ${line} `);
  if (!bytes?.[1]) return null;
  const pairs = bytes[1].trim().match(/[0-9A-F]{2}/gi) ?? [];
  const [high, low, kind] = pairs.map((p) => Number.parseInt(p, 16));
  if (high === undefined || low === undefined) return null;
  const suffix = kind === undefined ? "" : `-${kind.toString(16).toUpperCase().padStart(2, "0")}`;
  const at = line.indexOf(bytes[1].trim());
  return {
    module: tidy(line.slice(0, at)),
    code: `${codeFromBytes(high, low)}${suffix}`,
    text: tidy(line.slice(at + bytes[1].trim().length)),
  };
}

function tidy(text: string): string {
  return text.replace(/^[\s:;,.–-]+|[\s:;,–-]+$/g, "");
}

function fromTable(text: string): FaultList {
  const list: FaultList = { codes: [], problems: [], format: "csv" };
  const table = Papa.parse<string[]>(text, { skipEmptyLines: "greedy" });
  const names = (table.data[0] ?? []).map((n) => n.toLowerCase());
  const column = (...wanted: string[]) => names.findIndex((n) => wanted.some((w) => n.includes(w)));
  const [module, code, words] = [column("module", "unit"), column("code"), column("text", "description", "meaning")];
  for (const [i, row] of table.data.entries()) {
    if (i === 0) continue;
    const found = codeIn(row[code] ?? "");
    if (found)
      list.codes.push({ module: (row[module] ?? "").trim(), code: found.code, text: (row[words] ?? "").trim() });
    else list.problems.push(problem(i + 1, row.join(" "), `The column “${names[code]}” holds no fault code.`));
  }
  return list;
}

/** Modules in groups in a report: more is none. */
const MAX_DEPTH = 60;

function fromJson(text: string): FaultList {
  const list: FaultList = { codes: [], problems: [], format: "json" };
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return {
      ...list,
      problems: [problem(1, text.slice(0, 60), `It begins like JSON but is not: ${(error as Error).message}.`)],
    };
  }
  if (jsonDepth(text) > MAX_DEPTH)
    return { ...list, problems: [problem(1, text.slice(0, 60), "It is nested deeper than any list of fault codes.")] };
  collect(value, "", list);
  if (list.codes.length === 0 && list.problems.length === 0)
    list.problems.push(
      problem(1, text.slice(0, 60), "There is no fault code in it. Each one is an object with “code”, or a text."),
    );
  return list;
}

/** Walks a JSON value: texts and objects with “code” are codes, names of groups are modules. */
function collect(value: unknown, module: string, list: FaultList): void {
  if (typeof value === "string") {
    const found = codeIn(value);
    if (found) list.codes.push({ ...found, module: found.module || module });
    else list.problems.push(problem(list.codes.length + list.problems.length + 1, value, "It is no fault code."));
  } else if (Array.isArray(value)) for (const item of value) collect(item, module, list);
  else if (typeof value === "object" && value !== null) {
    const item = value as Record<string, unknown>;
    const own = textOf(item.module ?? item.unit) || module;
    if (typeof item.code === "string") {
      const found = codeIn(item.code);
      if (found) list.codes.push({ module: own, code: found.code, text: textOf(item.text ?? item.description) });
      else list.problems.push(problem(list.codes.length + list.problems.length + 1, item.code, "It is no fault code."));
    } else
      for (const [key, inner] of Object.entries(item)) if (typeof inner === "object") collect(inner, own || key, list);
  }
}

function textOf(value: unknown): string {
  return typeof value === "string" ? value : "";
}

function problem(line: number, text: string, what: string): FaultLineProblem {
  return { line, text: text.slice(0, 120), problem: what };
}

/** Codes by module, modules in the order of their first code; codes without one last. */
export function byModule(codes: readonly FaultCode[]): { module: string; codes: FaultCode[] }[] {
  const groups = new Map<string, FaultCode[]>();
  for (const code of codes) groups.set(code.module, [...(groups.get(code.module) ?? []), code]);
  return [...groups]
    .map(([module, list]) => ({ module, codes: list }))
    .sort((a, b) => Number(a.module === "") - Number(b.module === ""));
}
