/** A signal that was found and named: what a job knows of the messages of its car. */
import type { DbcMessage } from "../dbc";
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
  /** The log in which it was found, and what was looked for. */
  file: string;
  thing: string;
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
