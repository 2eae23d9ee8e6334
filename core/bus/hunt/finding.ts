/** A finding as a signal of a bus description. */
import type { DbcMessage, DbcSignal } from "../dbc";
import type { Candidate } from "./hunt";

/** A name that a bus description can hold: letters, digits and underscores, not beginning with a digit. */
export function signalName(words: string): string {
  const parts = words
    .normalize("NFKD")
    .replace(/[^\w\s-]/g, "")
    .split(/[\s_-]+/)
    .filter((p) => p !== "");
  const name = parts.map((p) => p[0]?.toUpperCase() + p.slice(1)).join("");
  return /^[A-Za-z_]/.test(name) ? name : `S${name}`;
}

export interface Naming {
  signal: string;
  /** Name of the message, when the description does not have one yet. */
  message: string;
  unit?: string;
  /** Where it comes from, for whoever reads the description later. */
  comment: string;
  /** Bytes of the message. */
  bytes: number;
}

/** The message with the found signal, and the selector when it is on a page. */
export function findingMessage(c: Candidate, { signal, message, unit = "", comment, bytes }: Naming): DbcMessage {
  const page = c.stream.page;
  const base = {
    minimum: 0,
    maximum: 0,
    unit: "",
    values: new Map<number, string>(),
    comment: "",
    littleEndian: true,
    factor: 1,
    offset: 0,
    kind: "unsigned" as const,
    multiplex: null,
  };
  const selector: DbcSignal[] = page
    ? [
        {
          ...base,
          name: "Page",
          startBit: page.selector.startBit,
          length: page.selector.length,
          maximum: 2 ** page.selector.length - 1,
        },
      ]
    : [];
  const place = { startBit: c.startBit, length: c.length };
  const found: DbcSignal = {
    ...base,
    ...place,
    name: signal,
    maximum: 2 ** c.length - 1,
    ...(c.kind === "level" ? levelOf(c, unit) : {}),
    ...(c.kind === "state" ? { values: namesOf(c.codes) } : {}),
    comment,
    multiplex: page ? { by: "Page", values: [[page.value, page.value]] } : null,
  };
  return {
    id: c.stream.id,
    extended: c.stream.extended,
    name: message,
    length: bytes,
    sender: "",
    signals: [...selector, found],
    comment: "",
  };
}

function levelOf(c: Extract<Candidate, { kind: "level" }>, unit: string): Partial<DbcSignal> {
  const ends = c.signed ? [-(2 ** (c.length - 1)), 2 ** (c.length - 1) - 1] : [0, 2 ** c.length - 1];
  const [a = 0, b = 0] = ends.map((e) => Number((e * c.factor + c.offset).toPrecision(6)));
  return {
    littleEndian: c.littleEndian,
    kind: c.signed ? "signed" : "unsigned",
    factor: c.factor,
    offset: c.offset,
    minimum: Math.min(a, b),
    maximum: Math.max(a, b),
    unit,
  };
}

/** The first thing that stands for a code names it. */
function namesOf(codes: ReadonlyMap<string, number>): Map<number, string> {
  const names = new Map<number, string>();
  for (const [label, code] of codes) if (!names.has(code)) names.set(code, label);
  return names;
}
