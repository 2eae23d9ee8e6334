import { parseAsc } from "./asc";
import { type ParsedLog, parseCandump } from "./candump";

/** The log formats that are read. A new format is one module and one line. */
const FORMATS: {
  name: string;
  recognises(head: string): boolean;
  parse(bytes: Uint8Array, progress?: Progress): ParsedLog;
}[] = [
  {
    name: "candump",
    recognises: (head) => /^\s*\(\d+(\.\d+)?\) \S+ [0-9A-Fa-f]{3,8}#/m.test(head),
    parse: parseCandump,
  },
  {
    name: "ASC",
    recognises: (head) => /^\s*base\s+hex/im.test(head),
    parse: (bytes) => parseAsc(new TextDecoder().decode(bytes)),
  },
];

export type Progress = (done: number, total: number) => boolean | undefined;

/** Name of the format of a log by its first bytes; null when it is none of those that are read. */
export function logFormat(head: Uint8Array): string | null {
  const text = new TextDecoder().decode(head.subarray(0, 16_384));
  return FORMATS.find((f) => f.recognises(text))?.name ?? null;
}

/** Reads a log in the format that its first bytes show; null when it is none of those that are read. */
export function parseLog(bytes: Uint8Array, progress?: Progress): ParsedLog | null {
  const name = logFormat(bytes);
  return FORMATS.find((f) => f.name === name)?.parse(bytes, progress) ?? null;
}
