import type { LineProblem } from "../errors";
import { dataOf, ERROR, EXTENDED, FAST, FD, FD_LENGTHS, type Frames, PASSIVE, REMOTE, SENT } from "../frames";
import { idText } from "../identifier";
import { type FormatReader, type LogFormat, type LogSink, wholeLines } from "./format";
import { HEX, HEX_PAIR, hexOf } from "./hex";

const LF = 10;
const CR = 13;
const TAB = 9;
const SPACE = 32;
const HASH = 35;
const DOT = 46;
const OPEN = 40;
const CLOSE = 41;
const LETTER_R = 82;
const LETTER_T = 84;
/** Times beyond are no times: seconds since 1970 have ten digits. */
const MAX_TIME_DIGITS = 11;
const MAX_PLACES = 15;
const SCALE = Float64Array.from({ length: MAX_PLACES + 1 }, (_, places) => 10 ** places);
/** The flag of error frames in the identifier, as the SocketCAN headers of the Linux kernel have it. */
export const ERROR_FLAG = 0x2000_0000;

/**
 * A line a frame: `(1436509052.249713) can0 1A5#2DFF00A1`, 3 digits for an 11-bit and 8 digits for a 29-bit identifier.
 * `#R8` is a remote request, `##1..` an FD frame with its flags, an identifier from 20000000 on an error frame. The form
 * for the screen, `(12.5)  can0  1A5   [4]  2D FF 00 A1`, is read too. Source: candump and its log files (can-utils).
 */
export const candump: LogFormat = {
  name: "candump",
  about: "(12.345678) can0 1A4#0102",
  endings: ["log", "txt"],
  unit: "line",
  linewise: true,
  recognises: (_, text) => /^[ \t]*\(\d+(\.\d+)?\)\s+\S+\s+[0-9A-Fa-f]{3,8}(#|\s+\[)/m.test(text),
  reader: (sink) => new CandumpReader(sink),
  *write(frames) {
    let text = "";
    for (let i = 0; i < frames.count; i++) {
      text += `${candumpLine(frames, i)}\n`;
      if (text.length > 65_536) {
        yield text;
        text = "";
      }
    }
    yield text;
  },
};

/** Works on bytes in one pass. */
class CandumpReader implements FormatReader {
  private bytes: Uint8Array = new Uint8Array(0);
  private times = new WrittenTimes(this.bytes);
  private channelName: Uint8Array = new Uint8Array(0);
  private channelIndex = 0;

  constructor(private readonly sink: LogSink) {}

  read(bytes: Uint8Array, last: boolean): number {
    const whole = wholeLines(bytes, last);
    this.bytes = bytes.subarray(0, whole);
    // Every line read below ends with a line feed, so that nothing is looked for behind the last byte.
    if (whole > 0 && this.bytes[whole - 1] !== LF) {
      this.bytes = new Uint8Array(whole + 1);
      this.bytes.set(bytes.subarray(0, whole));
      this.bytes[whole] = LF;
    }
    this.times = new WrittenTimes(this.bytes);
    for (let at = 0; at < whole; ) at = this.line(this.bytes, at);
    return whole;
  }

  /** Reads one line and returns where the next one begins. */
  private line(bytes: Uint8Array, start: number): number {
    const { sink } = this;
    sink.lines++;
    let p = start;
    while (bytes[p] === SPACE || bytes[p] === TAB) p++;
    if (bytes[p] === LF || (bytes[p] === CR && bytes[p + 1] === LF)) {
      sink.comments++;
      return p + (bytes[p] === CR ? 2 : 1);
    }
    if (bytes[p] !== OPEN)
      return this.bad(start, "shape", "it must start with the time in round brackets, like (12.000000)");
    p++;
    let timeS = bytes[p + 10] === DOT && bytes[p + 17] === CLOSE ? this.times.at(p) : Number.NaN;
    if (timeS >= 0) p += 17;
    else {
      const wholeStart = p;
      let whole = 0;
      for (let c = (bytes[p] as number) - 48; c >= 0 && c <= 9; c = (bytes[p] as number) - 48) {
        whole = whole * 10 + c;
        p++;
      }
      const digits = p - wholeStart;
      let fraction = 0;
      let places = 0;
      if (bytes[p] === DOT) {
        p++;
        for (let c = (bytes[p] as number) - 48; c >= 0 && c <= 9; c = (bytes[p] as number) - 48) {
          // Beyond what a number holds a digit changes nothing.
          if (places < MAX_PLACES) {
            fraction = fraction * 10 + c;
            places++;
          }
          p++;
        }
      }
      timeS = digits === 0 || digits > MAX_TIME_DIGITS ? Number.NaN : whole + fraction / (SCALE[places] as number);
    }
    if (!(timeS >= 0) || bytes[p] !== CLOSE || bytes[p + 1] !== SPACE)
      return this.bad(start, "time", "the time in brackets is not a number of seconds");
    p += 2;
    while (bytes[p] === SPACE) p++;
    const channelStart = p;
    const { channelName } = this;
    let same = 0;
    while (same < channelName.length && bytes[p + same] === channelName[same]) same++;
    p += same;
    if (same === 0 || same < channelName.length || bytes[p] !== SPACE) {
      while (bytes[p] !== SPACE && bytes[p] !== LF) p++;
      if (bytes[p] !== SPACE || p === channelStart)
        return this.bad(start, "shape", "after the time a channel name and a frame are expected");
      this.otherChannel(channelStart, p);
    }
    const channel = this.channelIndex;
    while (bytes[p] === SPACE) p++;
    let id = 0;
    const idStart = p;
    for (let h = HEX[bytes[p] as number] as number; h < 16 && p - idStart < 9; h = HEX[bytes[p] as number] as number) {
      id = id * 16 + h;
      p++;
    }
    const idDigits = p - idStart;
    if (bytes[p] === SPACE) return this.screenLine(start, idStart, timeS, channel);
    if (bytes[p] !== HASH) return this.bad(start, "identifier", "after the identifier a # is expected");
    let flags = idDigits === 8 ? EXTENDED : 0;
    if (idDigits === 8 && id >= ERROR_FLAG && id < 2 * ERROR_FLAG) {
      id -= ERROR_FLAG;
      flags = ERROR;
    } else if (!(idDigits === 3 && id <= 0x7ff) && !(idDigits === 8 && id <= 0x1fffffff))
      return this.bad(start, "identifier", WRONG_ID);
    p++;
    if (bytes[p] === HASH) {
      const bits = HEX[bytes[p + 1] as number] as number;
      if (!(bits < 16))
        return this.bad(start, "length", "behind ## one digit with the flags of an FD frame is expected");
      flags |= FD | (bits & 1 ? FAST : 0) | (bits & 2 ? PASSIVE : 0);
      p += 2;
    }
    const row = sink.frames.row();
    const { data } = row;
    let length = 0;
    let asked = 0;
    if ((bytes[p] === LETTER_R || bytes[p] === 114) && !(flags & FD)) {
      flags |= REMOTE;
      asked = HEX[bytes[++p] as number] as number;
      if (asked <= 8) p++;
      else asked = 0;
    } else {
      const most = flags & FD ? 64 : 8;
      const base = row.used;
      // More than fit run past the end of the block and are refused behind.
      while (bytes[p] !== LF) {
        const value = HEX_PAIR[((bytes[p] as number) << 8) | (bytes[p + 1] as number)] as number;
        if (value >= 0) {
          data[base + length++] = value;
          p += 2;
        } else if (bytes[p] === DOT && length > 0 && bytes[p - 1] !== DOT) p++;
        else break;
      }
      if ((HEX[bytes[p] as number] as number) < 16)
        return this.bad(start, "data", "a data byte has two hexadecimal digits");
      if (length > most) return this.bad(start, "length", `a frame of this kind has at most ${most} data bytes`);
      if (length > 8 && !FD_LENGTHS.includes(length as never))
        return this.bad(start, "length", `an FD frame cannot have ${length} data bytes`);
    }
    // A direction mark may follow.
    if (bytes[p] === SPACE && (bytes[p + 1] === LETTER_R || bytes[p + 1] === LETTER_T)) {
      if (bytes[p + 1] === LETTER_T) flags |= SENT;
      p += 2;
    }
    if (bytes[p] === CR) p++;
    if (bytes[p] !== LF) return this.bad(start, "data", "there are characters after the data");
    const i = row.count;
    row.timeS[i] = timeS;
    row.id[i] = id;
    row.flags[i] = flags;
    row.length[i] = flags & REMOTE ? asked : length;
    row.channel[i] = channel;
    sink.frames.next(length);
    return p + 1;
  }

  /** The form for the screen, from the identifier on: `1A5   [4]  2D FF 00 A1`. */
  private screenLine(start: number, idStart: number, timeS: number, channel: number): number {
    const end = this.lineEnd(start);
    const text = new TextDecoder().decode(this.bytes.subarray(idStart, end)).trim();
    const match =
      /^([0-9A-F]{3}|[0-9A-F]{8})\s+\[(\d{1,2})\]((?:\s+[0-9A-F]{2})*|\s+remote request)(?:\s+(?:'.*'|ERRORFRAME))?$/i.exec(
        text,
      );
    if (!match) return this.bad(start, "shape", "behind the identifier [length] and that many bytes are expected");
    const [, digits = "", count = "", rest = ""] = match;
    const number = Number.parseInt(digits, 16);
    const error = digits.length === 8 && number >= ERROR_FLAG && number < 2 * ERROR_FLAG;
    if (!error && number > (digits.length === 8 ? 0x1fffffff : 0x7ff)) return this.bad(start, "identifier", WRONG_ID);
    const remote = /remote/i.test(rest);
    const data = remote ? [] : (rest.match(/[0-9A-F]{2}/gi) ?? []).map((b) => Number.parseInt(b, 16));
    const length = Number(count);
    // The screen form writes the length of FD frames with two digits.
    const fd = count.length === 2;
    if (!(fd ? FD_LENGTHS : FD_LENGTHS.slice(0, 9)).includes(length as never) || (!remote && data.length !== length))
      return this.bad(start, "length", `${length} data bytes are announced and ${data.length} are there`);
    const flags = (error ? ERROR : digits.length === 8 ? EXTENDED : 0) | (remote ? REMOTE : 0) | (fd ? FD : 0);
    this.sink.frames.add({ timeS, id: error ? number - ERROR_FLAG : number, flags, channel, length, data });
    return end + 1;
  }

  /** A name other than that of the line before. */
  private otherChannel(start: number, end: number): void {
    this.channelName = this.bytes.slice(start, end);
    this.channelIndex = this.sink.channel(String.fromCharCode(...this.channelName.subarray(0, 64)));
  }

  private lineEnd(start: number): number {
    const end = this.bytes.indexOf(LF, start);
    return end < 0 ? this.bytes.length : end;
  }

  private bad(start: number, code: LineProblem["code"], problem: string): number {
    const end = this.lineEnd(start);
    this.sink.bad(
      code,
      problem,
      new TextDecoder().decode(this.bytes.subarray(start, Math.min(end, start + 80))).trim(),
    );
    return end + 1;
  }
}

const WRONG_ID = "an identifier has 3 hexadecimal digits up to 7FF or 8 digits up to 1FFFFFFF";

/** Times as candump writes them: ten digits, a point and six. Most lines have the whole seconds of the line before. */
class WrittenTimes {
  private readonly view: DataView;
  private first = 0;
  private second = 0;
  private third = 0;
  private seconds = Number.NaN;

  constructor({ buffer, byteOffset, byteLength }: Uint8Array) {
    this.view = new DataView(buffer, byteOffset, byteLength);
  }

  /** Seconds; not a number where one of the digits is none. */
  at(at: number): number {
    const { view } = this;
    const [first, second, third] = [view.getInt32(at), view.getInt32(at + 4), view.getInt16(at + 8)];
    if (first !== this.first || second !== this.second || third !== this.third) {
      this.first = first;
      this.second = second;
      this.third = third;
      this.seconds = fourDigits(first) * 1_000_000 + fourDigits(second) * 100 + twoDigits(third);
    }
    return this.seconds + (fourDigits(view.getInt32(at + 11)) * 100 + twoDigits(view.getInt16(at + 15))) / 1_000_000;
  }
}

/** Four digits of ASCII in one number, the first one highest; not a number where one is none. */
function fourDigits(ascii: number): number {
  const digits = ascii ^ 0x30303030;
  // A digit and six more than it both fit four bits; of nothing else do both.
  if ((digits | (digits + 0x06060606)) & 0xf0f0f0f0) return Number.NaN;
  return ((digits >> 24) * 10 + ((digits >> 16) & 15)) * 100 + ((digits >> 8) & 15) * 10 + (digits & 15);
}

function twoDigits(ascii: number): number {
  const digits = ascii ^ 0x3030;
  if ((digits | (digits + 0x0606)) & ~0x0f0f) return Number.NaN;
  return (digits >> 8) * 10 + (digits & 15);
}

/** One frame as a line of a log file, without line end. */
export function candumpLine(frames: Frames, row: number): string {
  const flags = frames.flags[row] ?? 0;
  const number = frames.id[row] ?? 0;
  const id = flags & ERROR ? idText(number + ERROR_FLAG, true) : idText(number, (flags & EXTENDED) !== 0);
  const channel = frames.channels[frames.channel[row] ?? 0] ?? "can0";
  return `(${(frames.timeS[row] ?? 0).toFixed(6).padStart(17, "0")}) ${channel} ${id}#${contentOf(frames, row, flags)}`;
}

function contentOf(frames: Frames, row: number, flags: number): string {
  if (flags & REMOTE) return `R${frames.length[row] || ""}`;
  const bits = (flags & FAST ? 1 : 0) + (flags & PASSIVE ? 2 : 0);
  return `${flags & FD ? `#${bits}` : ""}${hexOf(dataOf(frames, row))}`;
}
