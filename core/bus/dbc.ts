import type { LineProblem } from "./errors";

export interface DbcSignal {
  name: string;
  /** As written: for big-endian the most significant bit in sawtooth numbering. */
  startBit: number;
  length: number;
  littleEndian: boolean;
  kind: "unsigned" | "signed" | "float32" | "float64";
  factor: number;
  offset: number;
  minimum: number;
  maximum: number;
  unit: string;
  /** `selector` chooses which of the others are in a frame; a number is the value for which this one is. */
  multiplex: "always" | "selector" | number;
  values: ReadonlyMap<number, string>;
}

export interface DbcMessage {
  id: number;
  extended: boolean;
  name: string;
  length: number;
  signals: DbcSignal[];
}

export interface Dbc {
  messages: DbcMessage[];
  /** Lines that were not understood; everything else is used. */
  problems: LineProblem[];
}

/** Sections that carry nothing needed for decoding; they are passed over without a word. */
const SILENT =
  /^(VERSION|NS_|BS_|BU_|CM_|BA_|BA_DEF_|BA_DEF_DEF_|BA_DEF_REL_|BA_REL_|BA_DEF_DEF_REL_|BO_TX_BU_|VAL_TABLE_|EV_|SIG_GROUP_|SGTYPE_)\b/;
const MESSAGE = /^BO_\s+(\d+)\s+(\w+)\s*:\s*(\d+)\s+\w+/;
const NUMBER = "([-+]?(?:\\d+\\.?\\d*|\\.\\d+)(?:[eE][-+]?\\d+)?)";
const SIGNAL = new RegExp(
  `^SG_\\s+(\\w+)\\s*(M|m\\d+M?)?\\s*:\\s*(\\d+)\\|(\\d+)@([01])([+-])\\s*\\(\\s*${NUMBER}\\s*,\\s*${NUMBER}\\s*\\)\\s*\\[\\s*${NUMBER}\\s*\\|\\s*${NUMBER}\\s*\\]\\s*"([^"]*)"`,
);

/**
 * Reads the part of a DBC file that decoding needs: messages, signals (both byte orders, signed, float by
 * SIG_VALTYPE_, simple multiplexing) and value tables. Lines it does not know are reported, the rest is used.
 */
export function parseDbc(text: string): Dbc {
  const messages: DbcMessage[] = [];
  const problems: LineProblem[] = [];
  let inNames = false;
  let current: Current = null;
  for (const { line, text: statement, open } of statements(text)) {
    if (/^NS_/.test(statement)) inNames = true;
    else if (/^[A-Z]+_.*[ :"]/.test(statement)) inNames = false;
    const say = (code: LineProblem["code"], problem: string) =>
      problems.push({ line, code, problem, text: statement.slice(0, 80) });
    if (open) say("keyword", "a quotation mark is opened here and never closed; only this line was left out");
    else if (statement.startsWith("BO_ ")) {
      current = readMessage(statement, say);
      if (current && typeof current !== "string") messages.push(current);
    } else if (statement.startsWith("SG_ ")) readSignal(statement, current, say);
    else if (statement.startsWith("VAL_ ")) readValues(statement, messages, say);
    else if (statement.startsWith("SIG_VALTYPE_ ")) readFloat(statement, messages, say);
    else if (!SILENT.test(statement) && !(inNames && /^\w+$/.test(statement)))
      say("keyword", "this kind of line is not known and was left out");
  }
  return { messages, problems };
}

/** The text of a description: UTF-8, else as older tools write it, Windows-1252. */
export function dbcText(bytes: Uint8Array): string {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder("windows-1252").decode(bytes);
  }
}

/**
 * Non-empty lines with their number; a string that runs over several lines is joined. `open` is a line whose string is
 * never closed: it stands alone, so that it swallows nothing.
 */
function* statements(text: string): Generator<{ line: number; text: string; open: boolean }> {
  const lines = text.replace(/^\uFEFF/, "").split(/\r?\n/);
  const odd = lines.map(leavesOpen);
  // The next line that closes a string is looked for once.
  const closing = new Int32Array(lines.length + 1).fill(lines.length);
  for (let i = lines.length - 1; i >= 0; i--) closing[i] = odd[i] ? i : (closing[i + 1] as number);
  for (let i = 0; i < lines.length; i++) {
    const start = i;
    const end = odd[i] ? (closing[i + 1] as number) : i;
    const open = end >= lines.length;
    const whole = (open ? (lines[i] ?? "") : lines.slice(i, end + 1).join("\n")).trim();
    if (!open) i = end;
    if (whole) yield { line: start + 1, text: whole, open };
  }
}

/** True for a line with an odd number of quotation marks; an escaped one does not count unless it ends the statement. */
function leavesOpen(line: string): boolean {
  const plain = line.replace(/\\"\s*;\s*$/, '";').replace(/\\"/g, "");
  return (plain.match(/"/g)?.length ?? 0) % 2 === 1;
}

type Say = (code: LineProblem["code"], problem: string) => void;

/** The message whose signals follow; why there is none. */
type Current = DbcMessage | "left out" | "holder" | null;

function readMessage(statement: string, say: Say): Current {
  const m = MESSAGE.exec(statement);
  if (!m) {
    say("message", "a message reads: BO_ number name: length sender");
    return "left out";
  }
  const number = Number(m[1]);
  const extended = number >= 0x80000000;
  const id = extended ? number - 0x80000000 : number;
  if (number === 0xc0000000) return "holder"; // the customary holder of signals without a message
  if (id > (extended ? 0x1fffffff : 0x7ff)) {
    say("message", `the identifier ${number} is out of range`);
    return "left out";
  }
  return { id, extended, name: m[2] as string, length: Number(m[3]), signals: [] };
}

function readSignal(statement: string, message: Current, say: Say): void {
  if (message === "holder") return;
  if (message === "left out") return say("signal", "its message was left out, and the signal with it");
  const m = SIGNAL.exec(statement);
  if (!m)
    return say(
      "signal",
      'a signal reads: SG_ name : start|length@order sign (factor,offset) [min|max] "unit" receiver',
    );
  if (!message) return say("signal", "a signal stands before any message");
  const [, name = "", mux, start, length, order, sign, factor, offset, minimum, maximum, unit = ""] = m;
  if (mux && /^m\d+M$/.test(mux))
    return say("signal", "multiplexing in several stages is not read; the signal was left out");
  const signal: DbcSignal = {
    name,
    startBit: Number(start),
    length: Number(length),
    littleEndian: order === "1",
    kind: sign === "-" ? "signed" : "unsigned",
    factor: Number(factor),
    offset: Number(offset),
    minimum: Number(minimum),
    maximum: Number(maximum),
    unit,
    multiplex: mux === undefined ? "always" : mux === "M" ? "selector" : Number(mux.slice(1)),
    values: new Map(),
  };
  if (signal.length < 1 || signal.length > 64 || !fits(signal, message.length))
    return say("signal", `${name} does not lie inside the ${message.length} bytes of ${message.name}`);
  message.signals.push(signal);
}

function fits(signal: DbcSignal, bytes: number): boolean {
  const bits = signalBits(signal);
  return bits.every((b) => b >= 0 && b < 8 * bytes);
}

function readValues(statement: string, messages: DbcMessage[], say: Say): void {
  const m = /^VAL_\s+(\d+)\s+(\w+)\s+([\s\S]*?);?$/.exec(statement);
  const signal = m && findSignal(messages, Number(m[1]), m[2] as string);
  if (!m || !signal) return say("signal", "this value table belongs to no known signal");
  const values = new Map<number, string>();
  for (const pair of (m[3] ?? "").matchAll(/(-?\d+)\s+"((?:[^"\\]|\\.)*)"/g))
    values.set(Number(pair[1]), (pair[2] as string).replace(/\\"/g, '"'));
  signal.values = values;
}

function readFloat(statement: string, messages: DbcMessage[], say: Say): void {
  const m = /^SIG_VALTYPE_\s+(\d+)\s+(\w+)\s*:?\s*([0-3])/.exec(statement);
  const signal = m && findSignal(messages, Number(m[1]), m[2] as string);
  if (!m || !signal) return say("signal", "this value type belongs to no known signal");
  if (m[3] === "1" && signal.length === 32) signal.kind = "float32";
  else if (m[3] === "2" && signal.length === 64) signal.kind = "float64";
  else if (m[3] !== "0")
    say("signal", `${signal.name} has ${signal.length} bits, which does not go with this value type`);
}

function findSignal(messages: readonly DbcMessage[], number: number, name: string): DbcSignal | undefined {
  const extended = number >= 0x80000000;
  const id = extended ? number - 0x80000000 : number;
  return messages.find((m) => m.id === id && m.extended === extended)?.signals.find((s) => s.name === name);
}

/**
 * Bit positions of a signal, least significant first, as 8·byte + bit. In the sawtooth numbering of big-endian
 * signals the start bit is the most significant one and the next lower bit lies one further down, then at bit 7 of
 * the following byte.
 */
export function signalBits(signal: Pick<DbcSignal, "startBit" | "length" | "littleEndian">): number[] {
  const bits: number[] = [];
  let at = signal.startBit;
  for (let i = 0; i < signal.length; i++) {
    bits.push(at);
    if (signal.littleEndian) at++;
    else at = at % 8 === 0 ? at + 15 : at - 1;
  }
  return signal.littleEndian ? bits : bits.reverse();
}
