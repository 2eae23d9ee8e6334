import { asc } from "./formats/asc";
import { candump } from "./formats/candump";
import { csv } from "./formats/csv";
import {
  type FormatReader,
  type LogFormat,
  LogSink,
  type ParsedLog,
  type ReadPart,
  readAs,
  wholeLines,
} from "./formats/format";
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

/** Bytes that are read elsewhere at once: large enough that handing them over costs nothing beside reading them. */
const PART_BYTES = 1_000_000;

/**
 * Reads a log piece by piece, in the format that its beginning shows. Nothing of the pieces is kept but what a frame that
 * is not complete needs.
 */
export class LogReading {
  readonly sink = new LogSink();
  private format: LogFormat | null = null;
  private reader: FormatReader | null = null;
  private rest: Uint8Array = new Uint8Array(0);
  /** What comes behind `rest` and is not joined to it yet. */
  private waiting: Uint8Array[] = [];
  private waitingBytes = 0;
  /** Parts that others are reading, in the order of the log. */
  private readonly parts: Promise<ReadPart>[] = [];
  private given = 0;

  constructor(
    private readonly others: readonly PartReader[] = [],
    private readonly partBytes = PART_BYTES,
  ) {}

  /** @throws {UnknownLog} when enough has come to see that no format fits */
  async push(piece: Uint8Array): Promise<void> {
    this.waiting.push(piece);
    this.waitingBytes += piece.length;
    const enough = this.reader ? (this.sideBySide ? this.partBytes : 1) : HEAD_BYTES;
    if (this.rest.length + this.waitingBytes < enough) return;
    const bytes = this.gathered();
    const reader = this.begin(bytes);
    if (this.sideBySide) {
      const whole = wholeLines(bytes, false);
      this.rest = copied(bytes.subarray(whole));
      await this.give(bytes.subarray(0, whole) as Uint8Array<ArrayBuffer>);
    } else this.rest = copied(bytes.subarray(reader.read(bytes, false)));
  }

  /** @param note what has to be said of the file, for example that it breaks off */
  async finish(note?: string): Promise<ParsedLog> {
    const bytes = this.gathered();
    const reader = this.begin(bytes);
    if (this.given > 0) await this.give(bytes as Uint8Array<ArrayBuffer>);
    else reader.read(bytes, true);
    while (this.parts.length > 0) await this.takeFirst();
    if (note) this.sink.notes.push(note);
    return this.sink.finish(this.format as LogFormat);
  }

  private get sideBySide(): boolean {
    return this.others.length > 0 && this.format?.linewise === true;
  }

  /** All that is not read yet; bytes of their own where others read, for they are given away. */
  private gathered(): Uint8Array {
    const pieces = [this.rest, ...this.waiting].filter((p) => p.length > 0);
    const [only] = pieces;
    const bytes = only && pieces.length === 1 && this.others.length === 0 ? only : joined(pieces);
    this.waiting = [];
    this.waitingBytes = 0;
    return bytes;
  }

  /** Gives whole lines to the next of the others; when each has enough, the first part is awaited. */
  private async give(lines: Uint8Array<ArrayBuffer>): Promise<void> {
    if (lines.length === 0) return;
    const other = this.others[this.given++ % this.others.length] as PartReader;
    const part = other((this.format as LogFormat).name, lines);
    // A part that fails does so when it is taken.
    part.catch(() => undefined);
    this.parts.push(part);
    if (this.parts.length >= 2 * this.others.length) await this.takeFirst();
  }

  private async takeFirst(): Promise<void> {
    const part = await this.parts.shift();
    if (part) this.sink.take(part);
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

/** Reads whole lines of a log in a linewise format, somewhere else: in another worker. The bytes may be taken away. */
export type PartReader = (format: string, lines: Uint8Array<ArrayBuffer>) => Promise<ReadPart>;

/** Reads whole lines of a log. @param format name of one that is linewise */
export function readPart(format: string, lines: Uint8Array): ReadPart {
  const known = LOG_FORMATS.find((f) => f.name === format && f.linewise);
  if (!known) throw new Error(`no linewise format ${format}`);
  const sink = new LogSink();
  known.reader(sink).read(lines, true);
  return sink.part();
}

/** Reads a log that comes in pieces, compressed with gzip or not. */
export async function readLog(
  pieces: AsyncIterable<Uint8Array>,
  /** After each piece, with the bytes of the file so far; throws to stop. */
  progress?: (bytes: number, reading: LogReading) => void | Promise<void>,
  /** Others that read parts of a linewise log side by side. */
  others: readonly PartReader[] = [],
): Promise<ParsedLog> {
  const reading = new LogReading(others);
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
      await reading.push(piece);
      await progress?.(bytes, reading);
    }
  } catch (error) {
    if (!(error instanceof BrokenGzip)) throw error;
    note = `The compressed file is damaged or breaks off after line ${reading.sink.lines.toLocaleString("en")}; what stands before is used. Copy the file again.`;
  }
  return await reading.finish(note);
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

function joined(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

/** Bytes of their own: what `slice` gives may be a view. */
function copied(bytes: Uint8Array): Uint8Array<ArrayBuffer> {
  return new Uint8Array(bytes);
}
