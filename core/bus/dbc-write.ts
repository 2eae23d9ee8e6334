/** Writes into a bus description (DBC) without touching what is there: new lines go where their kind belongs. */
import { parseDbc } from "./dbc";
import { type Dbc, type DbcMessage, type DbcSignal, dbcNumber } from "./dbc-messages";
import { type Statement, statements } from "./dbc-statements";

export interface DbcAdditions {
  /** Messages with all their signals; of a message that is there, only the signals that it does not have are added. */
  messages: readonly DbcMessage[];
}

/** A description of nothing, to which messages are added. */
export const EMPTY_DBC = `VERSION ""

NS_ :

BS_:

BU_: Car

`;

/**
 * The text of a description with messages, signals, value tables and comments added. Everything else is as it was, byte
 * for byte, also the line ends.
 */
export function addToDbc(text: string, { messages }: DbcAdditions): string {
  const end = text.includes("\r\n") ? "\r\n" : "\n";
  const bom = text.startsWith("\uFEFF") ? "\uFEFF" : "";
  const lines = text.slice(bom.length).split(/(?<=\n)/);
  const dbc = parseDbc(text);
  const places = placesOf(text);
  const inserts = new Map<number, string[]>();
  const put = (line: number, added: string[]) => inserts.set(line, [...(inserts.get(line) ?? []), ...added]);
  for (const message of messages) {
    const known = dbc.messages.find((m) => m.id === message.id && m.extended === message.extended);
    const fresh = message.signals.filter((s) => !known?.signals.some((k) => k.name === s.name));
    const number = dbcNumber(message);
    const selectors = new Set([...(known?.signals ?? []), ...message.signals].map((s) => s.multiplex?.by));
    const receiver = receiverOf(dbc, message);
    const signalLines = fresh.map((s) => ` ${signalLine(s, selectors.has(s.name), receiver)}`);
    if (known) put(places.signals.get(number) ?? places.messages, signalLines);
    else
      put(places.messages, [
        "",
        `BO_ ${number} ${message.name}: ${message.length} ${message.sender || receiver}`,
        ...signalLines,
      ]);
    if (!known && message.comment) put(places.comments, [`CM_ BO_ ${number} "${quoted(message.comment)}";`]);
    for (const s of fresh) {
      if (s.comment) put(places.comments, [`CM_ SG_ ${number} ${s.name} "${quoted(s.comment)}";`]);
      if (s.values.size > 0) put(places.values, [valuesLine(number, s)]);
      if (s.kind === "float32" || s.kind === "float64")
        put(places.types, [`SIG_VALTYPE_ ${number} ${s.name} : ${s.kind === "float32" ? 1 : 2};`]);
      if (s.multiplex && !simple(s))
        put(places.types, [
          `SG_MUL_VAL_ ${number} ${s.name} ${s.multiplex.by} ${s.multiplex.values.map(([a, b]) => `${a}-${b}`).join(", ")};`,
        ]);
    }
  }
  const out: string[] = [];
  for (let i = 0; i <= lines.length; i++) {
    const added = inserts.get(i) ?? [];
    const before = out.at(-1);
    if (added.length > 0 && before !== undefined && !before.endsWith("\n")) out.push(end);
    out.push(...added.map((l) => l + end));
    if (i < lines.length) out.push(lines[i] as string);
  }
  return bom + out.join("");
}

/** Lines (0-based) before which something new of each kind goes. */
interface Places {
  messages: number;
  /** Behind the last signal of each message, by its number. */
  signals: Map<number, number>;
  comments: number;
  values: number;
  types: number;
}

/** Order of the sections of a file; something new goes behind the last line of its own section or of one before it. */
const SECTIONS: readonly RegExp[] = [
  /^(?:VERSION|NS_|BS_|BU_|VAL_TABLE_)\b|^\w+$/,
  /^(?:BO_|SG_) /,
  /^(?:BO_TX_BU_|EV_|ENVVAR_DATA_|SGTYPE_)/,
  /^CM_ /,
  /^BA_/,
  /^VAL_ /,
  /^(?:SIG_VALTYPE_|SIG_GROUP_|SG_MUL_VAL_)/,
];

function placesOf(text: string): Places {
  const last = SECTIONS.map(() => 0);
  const signals = new Map<number, number>();
  let message = -1;
  for (const s of statements(text)) {
    const section = sectionOf(s);
    if (section >= 0) last[section] = Math.max(last[section] as number, s.next);
    const number = /^BO_ (\d+)/.exec(s.text)?.[1];
    if (number) message = Number(number);
    if (section === 1) signals.set(message, s.next);
  }
  const behind = (section: number) => Math.max(...last.slice(0, section + 1));
  return { messages: behind(1), signals, comments: behind(3), values: behind(5), types: behind(6) };
}

function sectionOf({ text }: Statement): number {
  return SECTIONS.findIndex((s) => s.test(text));
}

/** A plain selector with one value needs no line of its own. */
function simple(s: DbcSignal): boolean {
  const [first, ...more] = s.multiplex?.values ?? [];
  return first !== undefined && more.length === 0 && first[0] === first[1];
}

function signalLine(s: DbcSignal, selects: boolean, receiver: string): string {
  const mark = s.multiplex ? ` m${s.multiplex.values[0]?.[0] ?? 0}${selects ? "M" : ""}` : selects ? " M" : "";
  const order = s.littleEndian ? 1 : 0;
  const sign = s.kind === "unsigned" ? "+" : "-";
  return `SG_ ${s.name}${mark} : ${s.startBit}|${s.length}@${order}${sign} (${s.factor},${s.offset}) [${s.minimum}|${s.maximum}] "${s.unit}" ${receiver}`;
}

function valuesLine(number: number, s: DbcSignal): string {
  return `VAL_ ${number} ${s.name} ${[...s.values].map(([v, name]) => `${v} "${quoted(name)}"`).join(" ")} ;`;
}

function receiverOf(dbc: Dbc, message: DbcMessage): string {
  return dbc.messages[0]?.sender ?? (message.sender || "Car");
}

function quoted(text: string): string {
  return text.replaceAll('"', '\\"');
}

/** The bytes of a description in the encoding it came in. Signs that Windows-1252 lacks make it UTF-8. */
export function dbcBytes(text: string, like: Uint8Array): Uint8Array {
  const utf8 = new TextEncoder().encode(text);
  try {
    new TextDecoder("utf-8", { fatal: true }).decode(like);
    return utf8;
  } catch {
    const codes = new Map(
      Array.from({ length: 256 }, (_, b) => [new TextDecoder("windows-1252").decode(Uint8Array.of(b)), b]),
    );
    const bytes = [...text].map((c) => codes.get(c));
    return bytes.every((b) => b !== undefined) ? Uint8Array.from(bytes as number[]) : utf8;
  }
}
