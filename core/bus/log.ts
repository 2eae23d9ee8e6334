import { asc } from "./formats/asc";
import { candump } from "./formats/candump";
import { csv } from "./formats/csv";
import { type FormatReader, type LogFormat, LogSink, type ParsedLog, readAs } from "./formats/format";
import { pcap, pcapng } from "./formats/pcap";
import { slcan } from "./formats/slcan";

export type { ParsedLog } from "./formats/format";

/** The log formats that are read; the first that knows the beginning of a file reads it. A new format is one module and one line. */
export const LOG_FORMATS: readonly LogFormat[] = [pcapng, pcap, candump, asc, csv, slcan];

/** So many bytes of the beginning show the format. */
export const HEAD_BYTES = 16_384;

/** Format of a log by its first bytes; null when it is none of those that are read. */
export function logFormat(head: Uint8Array): LogFormat | null {
  const start = head.subarray(0, HEAD_BYTES);
  const text = new TextDecoder().decode(start);
  return LOG_FORMATS.find((f) => f.recognises(start, text)) ?? null;
}

/** True for the beginning of a file that is compressed with gzip. Source: RFC 1952. */
export function isGzip(head: Uint8Array): boolean {
  return head[0] === 0x1f && head[1] === 0x8b;
}

/** A log of none of the formats that are read. */
export class UnknownLog extends Error {
  constructor() {
    super("This file is in none of the formats of a log that are read.");
    this.name = "UnknownLog";
  }
}

/**
 * Reads a log piece by piece, in the format that its beginning shows. Nothing of the pieces is kept but what a frame that
 * is not complete needs.
 */
export class LogReading {
  readonly sink = new LogSink();
  private format: LogFormat | null = null;
  private reader: FormatReader | null = null;
  private rest: Uint8Array = new Uint8Array(0);

  /** @throws {UnknownLog} when enough has come to see that no format fits */
  push(piece: Uint8Array): void {
    const bytes = this.rest.length === 0 ? piece : joined(this.rest, piece);
    if (!this.reader && bytes.length < HEAD_BYTES) {
      this.rest = bytes.slice();
      return;
    }
    const taken = this.begin(bytes).read(bytes, false);
    this.rest = bytes.slice(taken);
  }

  /** @param note what has to be said of the file, for example that it breaks off */
  finish(note?: string): ParsedLog {
    this.begin(this.rest).read(this.rest, true);
    if (note) this.sink.notes.push(note);
    return this.sink.finish(this.format as LogFormat);
  }

  private begin(head: Uint8Array): FormatReader {
    if (this.reader) return this.reader;
    this.format = logFormat(head);
    if (!this.format) throw new UnknownLog();
    this.reader = this.format.reader(this.sink);
    return this.reader;
  }
}

/** Reads a whole log; null when it is none of the formats that are read. */
export function parseLog(bytes: Uint8Array): ParsedLog | null {
  const format = logFormat(bytes);
  return format && readAs(format, bytes);
}

/** Reads a log that comes in pieces, compressed with gzip or not. */
export async function readLog(
  pieces: AsyncIterable<Uint8Array>,
  /** After each piece, with the bytes of the file so far; throws to stop. */
  progress?: (bytes: number, reading: LogReading) => void | Promise<void>,
): Promise<ParsedLog> {
  const reading = new LogReading();
  let bytes = 0;
  async function* counted(): AsyncGenerator<Uint8Array> {
    for await (const piece of pieces) {
      bytes += piece.length;
      yield piece;
    }
  }
  let note: string | undefined;
  try {
    for await (const piece of unpacked(counted())) {
      reading.push(piece);
      await progress?.(bytes, reading);
    }
  } catch (error) {
    if (!(error instanceof BrokenGzip)) throw error;
    note = `The compressed file is damaged or breaks off after line ${reading.sink.lines.toLocaleString("en")}; what stands before is used. Copy the file again.`;
  }
  return reading.finish(note);
}

/** A compressed file that is damaged or breaks off. */
class BrokenGzip extends Error {}

/**
 * The pieces as they are, or decompressed when they begin like a gzip file.
 *
 * @throws {BrokenGzip} and what the pieces throw
 */
export async function* unpacked(pieces: AsyncGenerator<Uint8Array>): AsyncGenerator<Uint8Array> {
  const first = await pieces.next();
  if (first.done) return;
  if (!isGzip(first.value)) {
    yield first.value;
    yield* pieces;
    return;
  }
  let broken: unknown = new BrokenGzip();
  const source = new ReadableStream<Uint8Array<ArrayBuffer>>({
    start: (to) => to.enqueue(first.value as Uint8Array<ArrayBuffer>),
    async pull(to) {
      try {
        const { done, value } = await pieces.next();
        if (done) to.close();
        else to.enqueue(value as Uint8Array<ArrayBuffer>);
      } catch (error) {
        broken = error;
        throw error;
      }
    },
  });
  const reader = source.pipeThrough(new DecompressionStream("gzip")).getReader();
  while (true) {
    const step = await reader.read().catch(() => {
      throw broken;
    });
    if (step.done) return;
    yield step.value;
  }
}

function joined(a: Uint8Array, b: Uint8Array): Uint8Array {
  const whole = new Uint8Array(a.length + b.length);
  whole.set(a);
  whole.set(b, a.length);
  return whole;
}
