import Papa from "papaparse";
import { dataOf, ERROR, EXTENDED, FD, FD_LENGTHS, type Frames, REMOTE } from "../frames";
import { idText } from "../identifier";
import { type FormatReader, type LogFormat, type LogSink, wholeLines } from "./format";
import { hexOf } from "./hex";

/** What a column can hold, and how its heading is recognised. */
const HEADINGS = {
  time: /^(?:(?:abs(?:olute)?|rel(?:ative)?)?\.?[ _]?time(?:[ _]?stamp)?|t|offset)(?:[ _([]+(s|sec|seconds|ms|us|µs|μs|ns)[)\]]?)?$/i,
  identifier:
    /^(?:can[ _]?)?(?:id|identifier|arbitration[ _]?id|message[ _]?id|address|addr)(?:[ _([]+(hex|dec)[)\]]?)?$/i,
  extended: /^(?:ext(?:ended)?|ide|xtd|is[ _]?extended(?:[ _]?id)?)$/i,
  remote: /^(?:remote|rtr|is[ _]?remote(?:[ _]?frame)?)$/i,
  error: /^(?:error|err|is[ _]?error(?:[ _]?frame)?)$/i,
  fd: /^(?:fd|fdf|edl|is[ _]?fd)$/i,
  kind: /^(?:type|kind|frame[ _]?type)$/i,
  length: /^(?:dlc|len(?:gth)?|data[ _]?len(?:gth)?|bytes|size)$/i,
  data: /^(?:data|payload|data[ _]?bytes|data[ _]?hex)(?:[ _([]+hex[)\]]?)?$/i,
  channel: /^(?:channel|ch|bus|interface|if|net(?:work)?)$/i,
} as const;
type Field = keyof typeof HEADINGS;
const BYTE = /^(?:d|b|byte|data)[ _]?(\d{1,2})$/i;
const TICKS: Readonly<Record<string, number>> = { ms: 1e-3, us: 1e-6, µs: 1e-6, μs: 1e-6, ns: 1e-9 };
/** Rows from which it is seen how numbers are written. */
const SAMPLE_ROWS = 200;

/** How the columns of a table were understood. */
interface Columns {
  at: Partial<Record<Field, number>>;
  bytes: number[];
  secondsPerTick: number;
  identifierBase: 10 | 16;
  data: "hexadecimal" | "decimal" | "base64";
}

/** A table with a heading; which columns hold what is found by their names, and said. */
export const csv: LogFormat = {
  name: "CSV",
  about: "time_s,identifier,length,data",
  endings: ["csv", "tsv"],
  unit: "line",
  recognises: (_, text) => headingOf(text) !== null,
  reader: (sink) => new CsvReader(sink),
  *write(frames) {
    yield "time_s,channel,identifier,extended,type,length,data\n";
    let text = "";
    for (let i = 0; i < frames.count; i++) {
      text += `${csvLine(frames, i)}\n`;
      if (text.length > 65_536) {
        yield text;
        text = "";
      }
    }
    yield text;
  },
};

/** Times beyond are no times: seconds since 1970 have ten digits. */
const MAX_TIME_S = 1e11;

/** The first line that names a time, an identifier and data; null when there is none among the first ones. */
function headingOf(text: string): { row: number; delimiter: string; names: string[] } | null {
  const { data, meta } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { preview: 20 });
  for (const [row, cells] of data.entries()) {
    const names = cells.map((c) => c.trim());
    const has = (field: Field) => names.some((n) => HEADINGS[field].test(n));
    if (has("time") && has("identifier") && (has("data") || names.some((n) => BYTE.test(n))))
      return { row, delimiter: meta.delimiter, names };
  }
  return null;
}

class CsvReader implements FormatReader {
  private columns: Columns | null = null;
  private delimiter = ",";

  constructor(private readonly sink: LogSink) {}

  read(bytes: Uint8Array, last: boolean): number {
    const whole = wholeLines(bytes, last);
    if (whole === 0) return 0;
    const text = new TextDecoder().decode(bytes.subarray(0, whole)).replace(/^\uFEFF/, "");
    const heading = this.columns ? null : headingOf(text);
    // Without quotation marks over line ends: each line of the file is a row, so that problems have its number.
    const lines = text.split(/\r?\n/);
    if (lines.at(-1) === "") lines.pop();
    const rows = lines.map((line) => cellsOf(line, heading?.delimiter ?? this.delimiter));
    if (heading) {
      this.delimiter = heading.delimiter;
      this.columns = columnsOf(heading.names, rows.slice(heading.row + 1, heading.row + 1 + SAMPLE_ROWS));
      this.sink.notes.push(howRead(heading.names, this.columns));
    }
    rows.forEach((cells, i) => {
      this.sink.lines++;
      const empty = cells.every((c) => c === "");
      if (empty || !this.columns || (heading && i <= heading.row)) this.sink.comments++;
      else this.row(cells, this.columns, lines[i] ?? "");
    });
    return whole;
  }

  private row(cells: readonly string[], columns: Columns, line: string): void {
    const { sink } = this;
    const cell = (field: Field) => {
      const at = columns.at[field];
      return at === undefined ? undefined : cells[at];
    };
    const time = cell("time") ?? "";
    const timeS = Number(time.replace(",", ".")) * columns.secondsPerTick;
    if (!/^\d{1,20}([.,]\d{1,12})?(e[-+]?\d+)?$/i.test(time) || timeS > MAX_TIME_S)
      return sink.bad("time", `“${time}” is no time`, line);
    const number = identifierOf(cell("identifier") ?? "", columns.identifierBase);
    const extended =
      yes(cell("extended")) ||
      (number !== null && number > 0x7ff) ||
      /x$/i.test(cell("identifier") ?? "") ||
      (/^\d?[0-9a-f]{7}$/i.test(cell("identifier") ?? "") && columns.identifierBase === 16);
    if (number === null || number > (extended ? 0x1fff_ffff : 0x7ff))
      return sink.bad("identifier", `“${cell("identifier")}” is no identifier`, line);
    const kind = cell("kind") ?? "";
    const remote = yes(cell("remote")) || /^(?:r|rtr|remote)/i.test(kind);
    const error = yes(cell("error")) || /^err/i.test(kind);
    const data = columns.bytes.length > 0 ? byteCells(cells, columns) : dataCell(cell("data") ?? "", columns.data);
    if (data === null) return sink.bad("data", "a data byte is not a number from 0 to 255", line);
    const told = cell("length");
    const length = told === undefined || told === "" ? data.length : Number(told);
    const fd = yes(cell("fd")) || /fd/i.test(kind) || data.length > 8;
    if (!(fd ? FD_LENGTHS : FD_LENGTHS.slice(0, 9)).includes(length as 8) || (!remote && data.length !== length))
      return sink.bad("length", `${told ?? length} data bytes are announced and ${data.length} are there`, line);
    sink.frames.add({
      timeS,
      id: number,
      flags: (extended ? EXTENDED : 0) | (remote ? REMOTE : 0) | (error ? ERROR : 0) | (fd ? FD : 0),
      channel: sink.channel(channelName(cell("channel"))),
      length,
      data: remote ? [] : data,
    });
  }
}

function cellsOf(line: string, delimiter: string): string[] {
  if (!line.includes('"')) return line.split(delimiter).map((c) => c.trim());
  return (Papa.parse<string[]>(line, { delimiter }).data[0] ?? []).map((c) => c.trim());
}

function columnsOf(names: readonly string[], sample: readonly (readonly string[])[]): Columns {
  const at: Partial<Record<Field, number>> = {};
  for (const field of Object.keys(HEADINGS) as Field[]) {
    const index = names.findIndex((n) => HEADINGS[field].test(n));
    if (index >= 0) at[field] = index;
  }
  const bytes = names
    .map((name, index) => ({ index, byte: BYTE.exec(name)?.[1] }))
    .filter((n) => n.byte !== undefined)
    .sort((a, b) => Number(a.byte) - Number(b.byte))
    .map((n) => n.index);
  const told = HEADINGS.time.exec(names[at.time ?? -1] ?? "")?.[1]?.toLowerCase() ?? "s";
  const values = (index: number | undefined) => sample.map((r) => r[index ?? -1] ?? "").filter((v) => v !== "");
  return {
    at,
    bytes,
    secondsPerTick: TICKS[told] ?? 1,
    identifierBase: baseOf(values(at.identifier), HEADINGS.identifier.exec(names[at.identifier ?? -1] ?? "")?.[1]),
    data: bytes.length > 0 ? byteBase(bytes.flatMap(values)) : dataForm(values(at.data)),
  };
}

function byteBase(values: readonly string[]): Columns["data"] {
  return values.some((v) => /^\d{3}$/.test(v)) ? "decimal" : "hexadecimal";
}

/** Base64 when most cells cannot be pairs of hexadecimal digits. */
function dataForm(values: readonly string[]): Columns["data"] {
  const pairs = values.filter((v) => /^(?:0x)?[0-9a-f]{2}(?:[ .:_-]?(?:0x)?[0-9a-f]{2})*$/i.test(v)).length;
  const base64 = values.filter((v) => v.length % 4 === 0 && /^[A-Za-z0-9+/]+={0,2}$/.test(v)).length;
  return base64 > pairs ? "base64" : "hexadecimal";
}

/** Decimal only when nothing speaks for hexadecimal and some number could not be a short identifier otherwise. */
function baseOf(values: readonly string[], told: string | undefined): 10 | 16 {
  if (told) return told.toLowerCase() === "dec" ? 10 : 16;
  if (values.some((v) => /[a-f]/i.test(v.replace(/^0x/i, "").replace(/x$/i, "")) || /^0/.test(v))) return 16;
  return values.some((v) => /^\d{4}$/.test(v)) ? 10 : 16;
}

function howRead(names: readonly string[], columns: Columns): string {
  const named = (Object.entries(columns.at) as [Field, number][]).map(([field, i]) => `${field} in “${names[i]}”`);
  const bytes =
    columns.bytes.length > 0
      ? [`${columns.bytes.length} data bytes from “${names[columns.bytes[0] as number]}” on`]
      : [];
  const unit =
    columns.secondsPerTick === 1
      ? "seconds"
      : columns.secondsPerTick === 1e-3
        ? "milliseconds"
        : columns.secondsPerTick === 1e-6
          ? "microseconds"
          : "nanoseconds";
  return `Columns found: ${[...named, ...bytes].join(", ")}. Times are read as ${unit}, identifiers as ${columns.identifierBase === 16 ? "hexadecimal" : "decimal"}, data as ${columns.data}.`;
}

function identifierOf(text: string, base: 10 | 16): number | null {
  const plain = text.replace(/^0x/i, "").replace(/[xh]$/i, "");
  const radix = /^0x/i.test(text) ? 16 : base;
  return (radix === 16 ? /^[0-9a-f]{1,8}$/i : /^\d{1,10}$/).test(plain) ? Number.parseInt(plain, radix) : null;
}

function byteCells(cells: readonly string[], columns: Columns): number[] | null {
  const texts = columns.bytes.map((i) => cells[i] ?? "");
  const end = texts.indexOf("");
  const used = end < 0 ? texts : texts.slice(0, end);
  const decimal = columns.data === "decimal";
  const values = used.map((t) =>
    /^(?:0x)?[0-9a-f]{1,3}$/i.test(t)
      ? Number.parseInt(t.replace(/^0x/i, ""), decimal && !/^0x/i.test(t) ? 10 : 16)
      : 256,
  );
  return values.every((v) => v <= 255) && texts.slice(used.length).every((t) => t === "") ? values : null;
}

function dataCell(text: string, written: Columns["data"]): number[] | null {
  if (text === "") return [];
  if (written === "base64") {
    if (!/^[A-Za-z0-9+/]*={0,2}$/.test(text) || text.length % 4 !== 0) return null;
    return [...atob(text)].map((c) => c.charCodeAt(0));
  }
  const digits = text.replace(/0x/gi, "").replace(/[ .:_-]/g, "");
  if (!/^(?:[0-9a-f]{2})*$/i.test(digits)) return null;
  return (digits.match(/../g) ?? []).map((b) => Number.parseInt(b, 16));
}

function yes(text: string | undefined): boolean {
  return text !== undefined && /^(?:1|true|yes|x|e|ext|extended)$/i.test(text);
}

/** A bus that only has a number gets the usual name. */
function channelName(text: string | undefined): string {
  if (text === undefined || text === "") return "can0";
  return /^\d+$/.test(text) ? `can${text}` : text;
}

function csvLine(frames: Frames, row: number): string {
  const flags = frames.flags[row] ?? 0;
  const extended = (flags & EXTENDED) !== 0;
  const kind = flags & ERROR ? "error" : flags & REMOTE ? "remote" : flags & FD ? "fd" : "data";
  const id = idText(frames.id[row] ?? 0, extended);
  return [
    (frames.timeS[row] ?? 0).toFixed(6),
    frames.channels[frames.channel[row] ?? 0] ?? "can0",
    `0x${id}`,
    extended ? 1 : 0,
    kind,
    frames.length[row] ?? 0,
    hexOf(dataOf(frames, row)),
  ].join(",");
}
