import { expose, transfer } from "comlink";
import type { ReadPart } from "~/core/bus/formats/format";
import { readPart } from "~/core/bus/log";

/** Reads lines of a log beside others; its columns go over without being copied. */
function read(format: string, lines: Uint8Array<ArrayBuffer>): ReadPart {
  const part = readPart(format, lines);
  const { timeS, id, flags, length, channel, data } = part.frames;
  return transfer(
    part,
    [timeS, id, flags, length, channel, data].map((column) => column.buffer as ArrayBuffer),
  );
}

const api = { read };
export type PartWorker = typeof api;
expose(api);
