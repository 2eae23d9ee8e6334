/** A worker that reads lines of a log beside others, as the browser's does. */
import { parentPort } from "node:worker_threads";
import { readPart } from "../../core/bus/log";

parentPort?.on("message", ({ format, lines }: { format: string; lines: Uint8Array }) => {
  const part = readPart(format, lines);
  const { timeS, id, flags, length, channel, data } = part.frames;
  parentPort?.postMessage(
    part,
    [timeS, id, flags, length, channel, data].map((column) => column.buffer as ArrayBuffer),
  );
});
