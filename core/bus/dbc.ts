import { type Dbc, type DbcMessage, type DbcSignal, EXTENDED_BIT, signalBits } from "./dbc-messages";
import { type Statement, statements } from "./dbc-statements";
import type { LineProblem } from "./errors";

/** Sections that carry nothing needed for decoding; they are passed over without a word, and kept when the file is written. */
const SILENT =
  /^(VERSION|NS_|BS_|BU_|CM_|BA_|BA_DEF_|BA_DEF_DEF_|BA_DEF_REL_|BA_REL_|BA_DEF_DEF_REL_|BO_TX_BU_|VAL_TABLE_|EV_|ENVVAR_DATA_|SIG_GROUP_|SGTYPE_)\b/;

const MESSAGE = /^BO_\s+(\d+)\s+(\w+)\s*:\s*(\d+)\s+(\w+)/;

const NUMBER = "([-+]?(?:\\d+\\.?\\d*|\\.\\d+)(?:[eE][-+]?\\d+)?)";

const SIGNAL = new RegExp(
  `^SG_\\s+(\\w+)\\s*(M|m\\d+M?)?\\s*:\\s*(\\d+)\\|(\\d+)@([01])([+-])\\s*\\(\\s*${NUMBER}\\s*,\\s*${NUMBER}\\s*\\)\\s*\\[\\s*${NUMBER}\\s*\\|\\s*${NUMBER}\\s*\\]\\s*"([^"]*)"`,
);

/** The customary holder of signals without a message. */
const HOLDER = 0xc0000000;

/**
 * Reads what decoding needs: messages, signals (both byte orders, signed, float by SIG_VALTYPE_), multiplexing in any
 * number of stages (`m3M`, SG_MUL_VAL_), value tables, comments. Lines it does not know are reported, the rest is used.
 */
export function parseDbc(text: string): Dbc {
  const reader = new DbcReader();
  for (const statement of statements(text)) reader.statement(statement);
  return reader.finish();
}

/** A message while its signals are read: what multiplexes is only known at its end. */
interface Draft {
  message: DbcMessage;
  signals: Map<string, { signal: DbcSignal; mark: string; line: number; text: string }>;
}

class DbcReader {
  private readonly problems: LineProblem[] = [];
  private readonly drafts = new Map<number, Draft>();
  private readonly order: Draft[] = [];
  /** The message whose signals follow; why there is none. */
  private current: Draft | "left out" | "holder" | null = null;
  private inNames = false;
  private at: Statement = { line: 0, next: 0, text: "", open: false };

  statement(at: Statement): void {
    this.at = at;
    const { text } = at;
    if (/^NS_/.test(text)) this.inNames = true;
    else if (/^[A-Z]+_.*[ :"]/.test(text)) this.inNames = false;
    if (at.open)
      return this.say("keyword", "a quotation mark is opened here and never closed; only this line was left out");
    if (text.startsWith("BO_ ")) this.current = this.message();
    else if (text.startsWith("SG_ ")) this.signal();
    else if (text.startsWith("VAL_ ")) this.values();
    else if (text.startsWith("SIG_VALTYPE_ ")) this.float();
    else if (text.startsWith("SG_MUL_VAL_ ")) this.multiplexing();
    else if (text.startsWith("CM_ ")) this.comment();
    else if (!SILENT.test(text) && !(this.inNames && /^\w+$/.test(text)))
      this.say("keyword", "this kind of line is not known and was left out");
  }

  finish(): Dbc {
    for (const draft of this.order) this.connect(draft);
    this.problems.sort((a, b) => a.line - b.line);
    return { messages: this.order.map((d) => d.message), problems: this.problems };
  }

  private say(
    code: LineProblem["code"],
    problem: string,
    { line, text }: { line: number; text: string } = this.at,
  ): void {
    this.problems.push({ line, code, problem, text: text.slice(0, 80) });
  }

  private message(): Draft | "left out" | "holder" {
    const m = MESSAGE.exec(this.at.text);
    if (!m) {
      this.say("message", "a message reads: BO_ number name: length sender");
      return "left out";
    }
    const number = Number(m[1]);
    if (number === HOLDER) return "holder";
    const extended = number >= EXTENDED_BIT;
    const id = extended ? number - EXTENDED_BIT : number;
    const length = Number(m[3]);
    if (id > (extended ? 0x1fffffff : 0x7ff)) {
      this.say("message", `the identifier ${number} is out of range`);
      return "left out";
    }
    if (length > 64) {
      this.say("message", `a message has at most 64 bytes, not ${length}`);
      return "left out";
    }
    if (this.drafts.has(number)) {
      this.say("message", `the identifier ${number} has a message already`);
      return "left out";
    }
    const message: DbcMessage = {
      id,
      extended,
      name: m[2] as string,
      length,
      sender: m[4] as string,
      signals: [],
      comment: "",
    };
    const draft = { message, signals: new Map() };
    this.drafts.set(number, draft);
    this.order.push(draft);
    return draft;
  }

  private signal(): void {
    const { current } = this;
    if (current === "holder") return;
    if (current === "left out") return this.say("signal", "its message was left out, and the signal with it");
    const m = SIGNAL.exec(this.at.text);
    if (!m)
      return this.say(
        "signal",
        'a signal reads: SG_ name : start|length@order sign (factor,offset) [min|max] "unit" receiver',
      );
    if (!current) return this.say("signal", "a signal stands before any message");
    const [, name = "", mark = "", start, length, order, sign, factor, offset, minimum, maximum, unit = ""] = m;
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
      multiplex: null,
      values: new Map(),
      comment: "",
    };
    const { message, signals } = current;
    if (![signal.factor, signal.offset, signal.minimum, signal.maximum].every(Number.isFinite))
      return this.say("signal", `a number of ${name} is larger than can be calculated with`);
    if (signal.length < 1 || signal.length > 64 || !fits(signal, message.length))
      return this.say("signal", `${name} does not lie inside the ${message.length} bytes of ${message.name}`);
    if (signals.has(name)) return this.say("signal", `${message.name} has a signal ${name} already`);
    signals.set(name, { signal, mark, line: this.at.line, text: this.at.text });
  }

  private values(): void {
    const m = /^VAL_\s+(\d+)\s+(\w+)\s+([\s\S]*?);?$/.exec(this.at.text);
    const entry = m && this.find(m[1] as string, m[2] as string);
    if (!m || !entry) return this.say("signal", "this value table belongs to no known signal");
    const values = new Map<number, string>();
    for (const pair of (m[3] ?? "").matchAll(/(-?\d+)\s+"((?:[^"\\]|\\.)*)"/g))
      if (Number.isFinite(Number(pair[1]))) values.set(Number(pair[1]), plainText(pair[2] as string));
    entry.signal.values = values;
  }

  private float(): void {
    const m = /^SIG_VALTYPE_\s+(\d+)\s+(\w+)\s*:?\s*([0-3])/.exec(this.at.text);
    const signal = m && this.find(m[1] as string, m[2] as string)?.signal;
    if (!m || !signal) return this.say("signal", "this value type belongs to no known signal");
    if (m[3] === "1" && signal.length === 32) signal.kind = "float32";
    else if (m[3] === "2" && signal.length === 64) signal.kind = "float64";
    else if (m[3] !== "0")
      this.say("signal", `${signal.name} has ${signal.length} bits, which does not go with this value type`);
  }

  /** `SG_MUL_VAL_ 513 Third Page 1-1, 4-6;`: by which signal, and for which of its values. */
  private multiplexing(): void {
    const m = /^SG_MUL_VAL_\s+(\d+)\s+(\w+)\s+(\w+)\s+([\d\s,-]+);?$/.exec(this.at.text);
    const entry = m && this.find(m[1] as string, m[2] as string);
    if (!m || !entry) return this.say("signal", "these multiplex values belong to no known signal");
    const values = [...(m[4] as string).matchAll(/(\d+)\s*-\s*(\d+)/g)].map(
      (r) => [Number(r[1]), Number(r[2])] as const,
    );
    if (values.length === 0 || values.some(([from, to]) => from > to || !Number.isSafeInteger(to)))
      return this.say("signal", "multiplex values read: 1-1, 4-6");
    entry.signal.multiplex = { by: m[3] as string, values };
  }

  private comment(): void {
    const m = /^CM_\s+(?:BO_\s+(\d+)|SG_\s+(\d+)\s+(\w+))\s+"([\s\S]*)"\s*;$/.exec(this.at.text);
    if (!m) return; // of the network, a node or a variable; kept in the file
    const text = plainText(m[4] as string);
    const draft = this.drafts.get(Number(m[1] ?? m[2]));
    const signal = m[3] && draft?.signals.get(m[3])?.signal;
    if (signal) signal.comment = text;
    else if (draft && !m[3]) draft.message.comment = text;
  }

  private find(number: string, name: string) {
    return this.drafts.get(Number(number))?.signals.get(name);
  }

  /** Says of each signal by which other it is chosen; leaves out those for which that cannot be told. */
  private connect({ message, signals }: Draft): void {
    const first = [...signals.values()].find((s) => s.mark === "M")?.signal.name;
    for (const { signal, mark } of signals.values()) {
      const value = /^m(\d+)/.exec(mark)?.[1];
      if (value !== undefined && !signal.multiplex && first)
        signal.multiplex = { by: first, values: [[Number(value), Number(value)]] };
    }
    for (const entry of signals.values()) {
      const { signal, mark } = entry;
      const problem =
        mark.startsWith("m") && !signal.multiplex
          ? "no signal of its message is marked M"
          : chainProblem(signal, signals);
      if (problem) this.say("signal", `${signal.name} is multiplexed, and ${problem}; the signal was left out`, entry);
      else message.signals.push(signal);
    }
  }
}

/** What is wrong with the signals that choose this one, and those that choose them. */
function chainProblem(signal: DbcSignal, signals: Draft["signals"]): string | null {
  const seen = new Set<string>();
  for (let at = signal; at.multiplex; ) {
    if (seen.has(at.name)) return "its selectors choose each other in a circle";
    seen.add(at.name);
    const by = signals.get(at.multiplex.by)?.signal;
    if (!by) return `its selector ${at.multiplex.by} is missing`;
    at = by;
  }
  return null;
}

/** A text between quotation marks without the signs that only serve the file. */
function plainText(quoted: string): string {
  return quoted.replace(/\\"/g, '"');
}

function fits(signal: DbcSignal, bytes: number): boolean {
  return signalBits(signal).every((b) => b >= 0 && b < 8 * bytes);
}
