import type { LineProblem } from "./errors";
import { FrameBuilder, type Frames } from "./frames";

export interface ParsedLog {
  frames: Frames;
  /** At most `MAX_PROBLEMS`; `badLines` counts all. */
  problems: LineProblem[];
  badLines: number;
  /** Lines that belong to the file and hold no frame: empty ones, headers, events. */
  comments: number;
  lines: number;
}

/** Problems kept for showing; a file of another kind would else repeat one message a million times. */
export const MAX_PROBLEMS = 100;

const LF = 10;
const CR = 13;
const TAB = 9;
const SPACE = 32;
const HASH = 35;
const DOT = 46;
const OPEN = 40;
const CLOSE = 41;
/** Times beyond are no times: seconds since 1970 have ten digits. */
const MAX_TIME_DIGITS = 11;
/** The flag of error frames in the identifier, as the SocketCAN headers of the Linux kernel have it. */
const ERROR_FLAG = 0x2000_0000;
/** Value of a hexadecimal digit by character code, 255 for others. */
const HEX = Uint8Array.from({ length: 256 }, (_, c) => {
  if (c >= 48 && c <= 57) return c - 48;
  if (c >= 65 && c <= 70) return c - 55;
  return c >= 97 && c <= 102 ? c - 87 : 255;
});

/**
 * Reads a `candump -L` log: `(1436509052.249713) can0 1A5#2DFF00A1`, one frame a line, 3 digits for an 11-bit and
 * 8 digits for a 29-bit identifier, up to 8 data bytes. Works on bytes in one pass.
 *
 * Bad lines are reported with number and reason and skipped; remote frames and longer frames are reported, not kept.
 *
 * @param progress called about every two million bytes with done and total; return false to stop
 */
export function parseCandump(
  bytes: Uint8Array,
  progress?: (done: number, total: number) => boolean | undefined,
): ParsedLog {
  const builder = new FrameBuilder(Math.ceil(bytes.length / 40));
  const reader = new Reader(bytes, builder);
  let nextReport = 2_000_000;
  while (reader.position < bytes.length) {
    reader.line();
    if (progress && reader.position >= nextReport) {
      nextReport = reader.position + 2_000_000;
      if (progress(reader.position, bytes.length) === false) break;
    }
  }
  return {
    frames: builder.finish(reader.channels),
    problems: reader.problems,
    badLines: reader.badLines,
    comments: reader.comments,
    lines: reader.lines,
  };
}

class Reader {
  position = 0;
  lines = 0;
  badLines = 0;
  comments = 0;
  readonly problems: LineProblem[] = [];
  readonly channels: string[] = [];
  private channelStart = -1;
  private channelLength = 0;
  private channelIndex = 0;

  constructor(
    private readonly bytes: Uint8Array,
    private readonly builder: FrameBuilder,
  ) {}

  /** Reads one line and leaves the position behind its end. */
  line(): void {
    const { bytes } = this;
    const start = this.position;
    this.lines++;
    let p = start;
    while (bytes[p] === SPACE || bytes[p] === TAB) p++;
    if (p >= bytes.length || bytes[p] === LF || (bytes[p] === CR && bytes[p + 1] === LF)) {
      this.comments++;
      this.position = p + (bytes[p] === CR ? 2 : 1);
      return;
    }
    if (bytes[p] !== OPEN)
      return this.bad(start, "shape", "it must start with the time in round brackets, like (12.000000)");
    p++;
    let whole = 0;
    let digits = 0;
    for (let c = (bytes[p] as number) - 48; c >= 0 && c <= 9; c = (bytes[p] as number) - 48) {
      whole = whole * 10 + c;
      digits++;
      p++;
    }
    let fraction = 0;
    let scale = 1;
    if (bytes[p] === DOT) {
      p++;
      for (let c = (bytes[p] as number) - 48; c >= 0 && c <= 9; c = (bytes[p] as number) - 48) {
        fraction = fraction * 10 + c;
        scale *= 10;
        p++;
      }
    }
    if (digits === 0 || digits > MAX_TIME_DIGITS || bytes[p] !== CLOSE || bytes[p + 1] !== SPACE)
      return this.bad(start, "time", "the time in brackets is not a number of seconds");
    p += 2;
    while (bytes[p] === SPACE) p++;
    const channelStart = p;
    while (p < bytes.length && bytes[p] !== SPACE && bytes[p] !== LF) p++;
    if (bytes[p] !== SPACE || p === channelStart)
      return this.bad(start, "shape", "after the time a channel name and a frame are expected");
    const channel = this.channel(channelStart, p - channelStart);
    while (bytes[p] === SPACE) p++;
    const frames = this.builder.row();
    const row = frames.count;
    let id = 0;
    const idStart = p;
    for (let h = HEX[bytes[p] as number] as number; h < 16 && p - idStart < 9; h = HEX[bytes[p] as number] as number) {
      id = id * 16 + h;
      p++;
    }
    const idDigits = p - idStart;
    if (bytes[p] !== HASH) return this.bad(start, "identifier", "after the identifier a # is expected");
    if (idDigits === 8 && id >= ERROR_FLAG && id < 2 * ERROR_FLAG)
      return this.bad(start, "shape", "an error frame of the adapter carries no message and is left out");
    if (!(idDigits === 3 && id <= 0x7ff) && !(idDigits === 8 && id <= 0x1fffffff)) {
      return this.bad(
        start,
        "identifier",
        "an identifier has 3 hexadecimal digits up to 7FF or 8 digits up to 1FFFFFFF",
      );
    }
    p++;
    if (bytes[p] === HASH) return this.bad(start, "length", "frames of the longer kind (##) are not read");
    if (bytes[p] === 82 || bytes[p] === 114)
      return this.bad(start, "remote", "a remote request carries no data and is left out");
    let length = 0;
    const base = 8 * row;
    const { data } = frames;
    for (;;) {
      const high = HEX[bytes[p] as number] as number;
      if (!(high < 16)) break;
      const low = HEX[bytes[p + 1] as number] as number;
      if (!(low < 16)) return this.bad(start, "data", "a data byte has two hexadecimal digits");
      if (length === 8) return this.bad(start, "length", "a frame has at most 8 data bytes");
      data[base + length++] = high * 16 + low;
      p += 2;
      if (bytes[p] === DOT) p++;
    }
    const end = bytes[p];
    if (end === SPACE && (bytes[p + 1] === 82 || bytes[p + 1] === 84)) p += 2; // direction mark of candump -x
    if (p < bytes.length && bytes[p] === CR) p++;
    if (p < bytes.length && bytes[p] !== LF) return this.bad(start, "data", "there are characters after the data");
    frames.timeS[row] = whole + fraction / scale;
    frames.id[row] = id;
    frames.extended[row] = idDigits === 8 ? 1 : 0;
    frames.length[row] = length;
    frames.channel[row] = channel;
    this.builder.next();
    this.position = p + 1;
  }

  private channel(start: number, length: number): number {
    const { bytes } = this;
    if (length === this.channelLength) {
      let same = true;
      for (let i = 0; i < length; i++) {
        if (bytes[this.channelStart + i] !== bytes[start + i]) {
          same = false;
          break;
        }
      }
      if (same) return this.channelIndex;
    }
    const name = String.fromCharCode(...bytes.subarray(start, start + Math.min(length, 64)));
    let index = this.channels.indexOf(name);
    if (index < 0) index = this.channels.length < 255 ? this.channels.push(name) - 1 : 254;
    this.channelStart = start;
    this.channelLength = length;
    this.channelIndex = index;
    return index;
  }

  private bad(start: number, code: LineProblem["code"], problem: string): void {
    const { bytes } = this;
    let end = start;
    while (end < bytes.length && bytes[end] !== LF) end++;
    this.badLines++;
    // A row that was begun may hold bytes of the bad frame; clear them for the next one.
    const frames = this.builder.row();
    frames.data.fill(0, 8 * frames.count, 8 * frames.count + 8);
    if (this.problems.length < MAX_PROBLEMS) {
      const text = new TextDecoder().decode(bytes.subarray(start, Math.min(end, start + 80)));
      this.problems.push({ line: this.lines, code, problem, text });
    }
    this.position = end + 1;
  }
}

/** One frame as a `candump -L` line, without line end. */
export function candumpLine(frames: Frames, row: number): string {
  const length = frames.length[row] ?? 0;
  let data = "";
  for (let i = 0; i < length; i++) data += (frames.data[8 * row + i] ?? 0).toString(16).toUpperCase().padStart(2, "0");
  const id = (frames.id[row] ?? 0)
    .toString(16)
    .toUpperCase()
    .padStart(frames.extended[row] ? 8 : 3, "0");
  return `(${(frames.timeS[row] ?? 0).toFixed(6).padStart(17, "0")}) ${frames.channels[frames.channel[row] ?? 0] ?? "can0"} ${id}#${data}`;
}
