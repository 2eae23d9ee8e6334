/** A signal that was found and named: what a job knows of the messages of its car. */
import type { DbcMessage, DbcSignal } from "../dbc-messages";
import type { Selector } from "./streams";

export interface FoundSignal {
  /** Names of the signal and of its message, as a bus description can hold them. */
  signal: string;
  message: string;
  id: number;
  extended: boolean;
  /** Bytes of the message. */
  bytes: number;
  startBit: number;
  length: number;
  littleEndian: boolean;
  signed: boolean;
  factor: number;
  offset: number;
  unit: string;
  /** Names of raw values. */
  values: [number, string][];
  /** On one page of a multiplexed message. */
  page: (Selector & { value: number }) | null;
  /** The log in which it was found, and what was looked for; empty when the file is a description. */
  file: string;
  thing: string;
}

/** A signal without where it comes from and who took it. */
export type BareSignal = Omit<FoundSignal, "file" | "thing">;

/** Only what tells how a signal is read, whatever else stands beside it. */
export function bareSignal(s: BareSignal): BareSignal {
  const { signal, message, id, extended, bytes, startBit, length, littleEndian, signed, factor, offset, unit } = s;
  const place = { signal, message, id, extended, bytes, startBit, length, littleEndian, signed, factor, offset, unit };
  return { ...place, values: s.values, page: s.page };
}

/**
 * A signal of a bus description as a job takes it over.
 *
 * @returns why it cannot be taken where a job has no words for it
 */
export function describedSignal(message: DbcMessage, signal: DbcSignal, file: string): FoundSignal | string {
  if (signal.kind === "float32" || signal.kind === "float64") return "Its value is a floating point number.";
  let page: FoundSignal["page"] = null;
  if (signal.multiplex) {
    const { by, values } = signal.multiplex;
    const selector = message.signals.find((s) => s.name === by);
    const [first, last] = values[0] ?? [];
    if (!selector || selector.multiplex || !selector.littleEndian || values.length !== 1 || first !== last)
      return "It is on more than one page of its message.";
    if (selector.length > 8) return "Its page is chosen by more than eight bits.";
    page = { startBit: selector.startBit, length: selector.length, value: first as number };
  }
  return {
    signal: signal.name,
    message: message.name,
    id: message.id,
    extended: message.extended,
    bytes: message.length,
    startBit: signal.startBit,
    length: signal.length,
    littleEndian: signal.littleEndian,
    signed: signal.kind === "signed",
    factor: signal.factor,
    offset: signal.offset,
    unit: signal.unit.slice(0, 12),
    values: [...signal.values].map(([raw, name]) => [raw, name]),
    page,
    file,
    thing: "",
  };
}

/** Name of the signal that chooses the page. */
const PAGE = "Page";

/** Found signals as messages of a description; those of one identifier together. */
export function messagesOf(found: readonly FoundSignal[], comment: (f: FoundSignal) => string): DbcMessage[] {
  const messages = new Map<string, DbcMessage>();
  for (const f of found) {
    const key = `${f.extended} ${f.id}`;
    const message: DbcMessage = messages.get(key) ?? {
      id: f.id,
      extended: f.extended,
      name: f.message,
      length: f.bytes,
      sender: "",
      signals: [],
      comment: "",
    };
    messages.set(key, message);
    const plain = { littleEndian: true, factor: 1, offset: 0, unit: "", multiplex: null, kind: "unsigned" as const };
    if (f.page && !message.signals.some((s) => s.name === PAGE))
      message.signals.push({
        ...plain,
        name: PAGE,
        startBit: f.page.startBit,
        length: f.page.length,
        minimum: 0,
        maximum: 2 ** f.page.length - 1,
        values: new Map(),
        comment: "",
      });
    const [least, greatest] = f.signed ? [-(2 ** (f.length - 1)), 2 ** (f.length - 1) - 1] : [0, 2 ** f.length - 1];
    const ends = [least, greatest].map((raw) => Number((raw * f.factor + f.offset).toPrecision(6)));
    message.signals.push({
      name: f.signal,
      startBit: f.startBit,
      length: f.length,
      littleEndian: f.littleEndian,
      kind: f.signed ? "signed" : "unsigned",
      factor: f.factor,
      offset: f.offset,
      minimum: Math.min(...ends),
      maximum: Math.max(...ends),
      unit: f.unit,
      multiplex: f.page ? { by: PAGE, values: [[f.page.value, f.page.value]] } : null,
      values: new Map(f.values),
      comment: comment(f),
    });
  }
  return [...messages.values()];
}
