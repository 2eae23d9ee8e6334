import type { LineProblem } from "../errors";
import { dataOf, ERROR, EXTENDED, FAST, FD, FD_LENGTHS, type Frames, PASSIVE, REMOTE, SENT } from "../frames";
import { type FormatReader, type LogFormat, type LogSink, wholeLines } from "./format";
import { HEX, HEX_PAIR, hexOf } from "./hex";

/** Lines that belong to the file and hold no frame. */
const HEADER =
  /^(?:date\b|base\b|(?:no )?internal events? logged|\/\/|begin trigger\s?block|end trigger\s?block|;|#|previous log file|next log file|split file)/i;
/** What an event line says behind its time: starts, triggers, statistics, variables. */
const EVENT =
  /^(?:start of measurement|log |can \d+ status|statistic|sv:|gps|\/\/|\d+\s+statistic|\d+\s+(?:status|busload))/i;

const MAX_CHANNEL = 64;
const LF = 10;
const SPACE = 32;
const TAB = 9;
const DOT = 46;
/** Bit of the flags column of a CANFD line that is set for frames of the FD kind (from memory). */
const FD_FORMAT = 0x1000;

/**
 * `0.002367 1  390x  Rx   d 8 17 00 14 00 C0 00 08 00`. `base dec` and `timestamps relative` of the header are
 * followed. Channels become `can0`, `can1`... for 1, 2... Source: what log2asc (can-utils) and python-can write.
 */
export const asc: LogFormat = {
  name: "ASC",
  about: "base hex … 0.012345 1 1A4 Rx d 2 01 02",
  endings: ["asc"],
  unit: "line",
  recognises: (_, text) => /^[ \t]*base\s+(hex|dec)\b/im.test(text),
  reader: (sink) => new AscReader(sink),
  *write(frames) {
    yield "date Thu Jan 1 00:00:00 1970\nbase hex  timestamps absolute\nno internal events logged\n";
    let text = "";
    for (let i = 0; i < frames.count; i++) {
      text += `${ascLine(frames, i)}\n`;
      if (text.length > 65_536) {
        yield text;
        text = "";
      }
    }
    yield text;
  },
};

type Refusal = readonly [LineProblem["code"], string];

class AscReader implements FormatReader {
  private base = 16;
  private relative = false;
  private timeS = 0;
  private bytes: Uint8Array = new Uint8Array(0);
  private readonly decoder = new TextDecoder();
  /** Index in the sink by channel number. */
  private readonly buses: number[] = [];

  constructor(private readonly sink: LogSink) {}

  read(bytes: Uint8Array, last: boolean): number {
    const whole = wholeLines(bytes, last);
    this.bytes = bytes.subarray(0, whole);
    let at = 0;
    while (at < whole) {
      this.sink.lines++;
      const next = this.base === 16 ? this.usual(at) : -1;
      if (next >= 0) {
        at = next;
        continue;
      }
      let end = this.bytes.indexOf(LF, at);
      if (end < 0) end = whole;
      this.line(this.decoder.decode(this.bytes.subarray(at, end)).trim());
      at = end + 1;
    }
    return whole;
  }

  /** A data line of the classic kind, byte by byte. Returns where the next line begins, or -1: read it the long way. */
  private usual(start: number): number {
    const { bytes } = this;
    let p = start;
    while (bytes[p] === SPACE) p++;
    const digitsFrom = p;
    let timeS = 0;
    for (let c = (bytes[p] as number) - 48; c >= 0 && c <= 9; c = (bytes[++p] as number) - 48) timeS = timeS * 10 + c;
    if (p === digitsFrom || p - digitsFrom > 10 || bytes[p] !== DOT) return -1;
    let fraction = 0;
    let scale = 1;
    for (let c = (bytes[++p] as number) - 48; c >= 0 && c <= 9; c = (bytes[++p] as number) - 48) {
      fraction = fraction * 10 + c;
      scale *= 10;
    }
    if (scale === 1 || scale > 1e12 || bytes[p] !== SPACE) return -1;
    timeS += fraction / scale;
    while (bytes[p] === SPACE) p++;
    let channel = 0;
    for (let c = (bytes[p] as number) - 48; c >= 0 && c <= 9; c = (bytes[++p] as number) - 48)
      channel = channel * 10 + c;
    if (channel < 1 || channel > MAX_CHANNEL || bytes[p] !== SPACE) return -1;
    while (bytes[p] === SPACE) p++;
    let id = 0;
    const idFrom = p;
    for (let h = HEX[bytes[p] as number] as number; h < 16 && p - idFrom < 9; h = HEX[bytes[++p] as number] as number)
      id = id * 16 + h;
    if (p === idFrom) return -1;
    const extended = bytes[p] === 120 || bytes[p] === 88;
    if (extended) p++;
    if (bytes[p] !== SPACE || id > (extended ? 0x1fff_ffff : 0x7ff)) return -1;
    while (bytes[p] === SPACE) p++;
    const sent = bytes[p] === 84; // T of Tx
    if ((!sent && bytes[p] !== 82) || bytes[p + 1] !== 120 || bytes[p + 2] !== SPACE) return -1;
    p += 3;
    while (bytes[p] === SPACE) p++;
    if (bytes[p] !== 100 || bytes[p + 1] !== SPACE) return -1;
    p += 2;
    const length = (bytes[p] as number) - 48;
    if (!(length >= 0 && length <= 8)) return -1;
    p++;
    const row = this.sink.frames.row();
    const { data, used } = row;
    for (let i = 0; i < length; i++) {
      const value = HEX_PAIR[((bytes[p + 1] as number) << 8) | (bytes[p + 2] as number)] as number;
      if (bytes[p] !== SPACE || value < 0) return -1;
      data[used + i] = value;
      p += 3;
    }
    // What may follow (length in time and bits) is not read.
    const behind = bytes[p];
    if (behind !== undefined && behind !== LF && behind !== SPACE && behind !== TAB && behind !== 13) return -1;
    this.timeS = this.relative ? this.timeS + timeS : timeS;
    const i = row.count;
    row.timeS[i] = this.timeS;
    row.id[i] = id;
    row.flags[i] = (extended ? EXTENDED : 0) | (sent ? SENT : 0);
    row.length[i] = length;
    row.channel[i] = this.bus(channel);
    this.sink.frames.next(length);
    if (behind === LF) return p + 1;
    const end = bytes.indexOf(LF, p);
    return end < 0 ? bytes.length : end + 1;
  }

  private line(line: string): void {
    if (line === "" || HEADER.test(line)) {
      this.sink.comments++;
      const base = /^base\s+(hex|dec)\b/i.exec(line)?.[1];
      if (base) this.base = base.toLowerCase() === "dec" ? 10 : 16;
      const stamps = /\btimestamps\s+(absolute|relative)\b/i.exec(line)?.[1];
      if (stamps) this.relative = stamps.toLowerCase() === "relative";
      return;
    }
    const fields = line.split(/\s+/);
    const [time = ""] = fields;
    if (!/^\d{1,10}(\.\d{1,12})?$/.test(time))
      return this.sink.bad("time", "it must start with the time in seconds", line);
    // Relative times count from the line before, whatever that was.
    this.timeS = this.relative ? this.timeS + Number(time) : Number(time);
    if (EVENT.test(line.slice(time.length).trim())) {
      this.sink.comments++;
      return;
    }
    const refusal = /^canfd$/i.test(fields[1] ?? "") ? this.longFrame(fields.slice(2)) : this.frame(fields.slice(1));
    if (refusal) this.sink.bad(refusal[0], refusal[1], line);
  }

  private frame([
    channel = "",
    identifier = "",
    direction = "",
    type = "",
    length = "",
    ...bytes
  ]: string[]): Refusal | null {
    if (!isChannel(channel)) return WRONG_CHANNEL;
    if (/^errorframe$/i.test(identifier)) return this.keep(channel, { id: 0, flags: ERROR, length: 0, data: [] });
    const id = this.identifier(identifier);
    if (typeof id !== "number") return id;
    if (!DIRECTION.test(direction)) return ["shape", "after the identifier Rx or Tx is expected"];
    const flags = (isExtended(identifier) ? EXTENDED : 0) | sentFlag(direction);
    if (/^r$/i.test(type)) {
      const asked = this.number(length) ?? 0;
      if (asked > 8) return ["length", "a remote request asks for at most 8 data bytes"];
      return this.keep(channel, { id, flags: flags | REMOTE, length: asked, data: [] });
    }
    if (!/^d$/i.test(type)) return ["shape", "after the direction d for a data frame is expected"];
    const count = this.number(length);
    if (count === null || count > 8) return ["length", "a frame has at most 8 data bytes"];
    const data = this.data(bytes, count);
    if (!data) return this.wrongData(count);
    return this.keep(channel, { id, flags, length: count, data });
  }

  /** `CANFD 1 Rx 123 name 1 0 d 32 00 ..`: name may be missing; rate switch, error state, length code, data bytes. */
  private longFrame([channel = "", direction = "", identifier = "", ...rest]: string[]): Refusal | null {
    if (!isChannel(channel)) return WRONG_CHANNEL;
    if (!DIRECTION.test(direction)) return ["shape", "after the channel Rx or Tx is expected"];
    if (/^errorframe$/i.test(identifier)) return this.keep(channel, { id: 0, flags: ERROR, length: 0, data: [] });
    const id = this.identifier(identifier);
    if (typeof id !== "number") return id;
    const at = [0, 1].find(
      (i) => /^[01]$/.test(rest[i] ?? "") && /^[01]$/.test(rest[i + 1] ?? "") && this.lengthOf(rest, i) !== null,
    );
    if (at === undefined)
      return ["length", "after the identifier rate switch, error state, length code and number of bytes are expected"];
    const count = this.lengthOf(rest, at) as number;
    const bytes = rest.slice(at + 4, at + 4 + count);
    const data = this.data(bytes, count);
    if (!data) return this.wrongData(count);
    const told = rest[at + 4 + count + 2];
    const long = told === undefined || !/^[0-9a-f]+$/i.test(told) || (Number.parseInt(told, 16) & FD_FORMAT) !== 0;
    if (!long && count > 8) return ["length", "a frame of the classic kind has at most 8 data bytes"];
    const kind = long ? FD | (rest[at] === "1" ? FAST : 0) | (rest[at + 1] === "1" ? PASSIVE : 0) : 0;
    const flags = (isExtended(identifier) ? EXTENDED : 0) | sentFlag(direction) | kind;
    return this.keep(channel, { id, flags, length: count, data });
  }

  /** Number of data bytes when it goes with the length code before it; else null. */
  private lengthOf(rest: readonly string[], at: number): number | null {
    const [code = "", count = ""] = rest.slice(at + 2, at + 4);
    if (!/^[0-9a-f]{1,2}$/i.test(code) || !/^\d{1,2}$/.test(count)) return null;
    const length = Number(count);
    const ofCode = FD_LENGTHS[Number.parseInt(code, 16)] ?? FD_LENGTHS[Number(code)];
    return length === ofCode || length === FD_LENGTHS[Number(code)] ? length : null;
  }

  private keep(channel: string, f: { id: number; flags: number; length: number; data: ArrayLike<number> }): null {
    this.sink.frames.add({ timeS: this.timeS, channel: this.bus(Number(channel)), ...f });
    return null;
  }

  private bus(channel: number): number {
    const known = this.buses[channel];
    if (known !== undefined) return known;
    const index = this.sink.channel(`can${channel - 1}`);
    this.buses[channel] = index;
    return index;
  }

  private identifier(text: string): number | Refusal {
    const extended = isExtended(text);
    const id = this.number(extended ? text.slice(0, -1) : text);
    const most = extended ? 0x1fff_ffff : 0x7ff;
    if (id !== null && id <= most) return id;
    const base = this.base === 16 ? "hexadecimal" : "decimal";
    const limit = `${most.toString(this.base).toUpperCase()}${extended ? " with an x" : ""}`;
    return ["identifier", `“${text.slice(0, 20)}” is no identifier: ${base}, up to ${limit}`];
  }

  /** The data bytes; null when one is missing or no byte. */
  private data(bytes: readonly string[], count: number): number[] | null {
    const width = this.base === 16 ? 2 : 3;
    const values = bytes.slice(0, count).map((b) => (b.length <= width ? (this.number(b) ?? 256) : 256));
    return values.length < count || values.some((v) => v > 255) ? null : values;
  }

  private wrongData(count: number): Refusal {
    return ["data", `${count} data bytes are expected, ${this.base === 16 ? "hexadecimal" : "decimal"}`];
  }

  /** Null for what is no whole number in the base of the file. */
  private number(text: string): number | null {
    const shape = this.base === 16 ? /^[0-9a-f]{1,8}$/i : /^\d{1,10}$/;
    return shape.test(text) ? Number.parseInt(text, this.base) : null;
  }
}

const WRONG_CHANNEL: Refusal = ["shape", `after the time a channel from 1 to ${MAX_CHANNEL} is expected`];
const DIRECTION = /^(?:Rx|Tx|TxRq)$/i;

function isChannel(text: string): boolean {
  return /^\d{1,2}$/.test(text) && Number(text) >= 1 && Number(text) <= MAX_CHANNEL;
}

function isExtended(identifier: string): boolean {
  return /x$/i.test(identifier);
}

function sentFlag(direction: string): number {
  return /^tx/i.test(direction) ? SENT : 0;
}

function ascLine(frames: Frames, row: number): string {
  const flags = frames.flags[row] ?? 0;
  const length = frames.length[row] ?? 0;
  const time = ((frames.timeS[row] ?? 0) - (frames.timeS[0] ?? 0)).toFixed(6).padStart(11);
  const channel = (frames.channel[row] ?? 0) + 1;
  if (flags & ERROR) return `${time} ${channel}  ErrorFrame`;
  const id = `${(frames.id[row] ?? 0).toString(16).toUpperCase()}${flags & EXTENDED ? "x" : ""}`;
  const direction = flags & SENT ? "Tx" : "Rx";
  const data = hexOf(dataOf(frames, row), " ");
  if (flags & FD) {
    const code = FD_LENGTHS.indexOf(length as 64).toString(16);
    const bits = `${flags & FAST ? 1 : 0} ${flags & PASSIVE ? 1 : 0}`;
    const told = FD_FORMAT | (flags & FAST ? 0x2000 : 0) | (flags & PASSIVE ? 0x4000 : 0);
    return `${time} CANFD ${String(channel).padStart(3)} ${direction}   ${id.padStart(8)} ${bits} ${code} ${String(length).padStart(2)} ${data} 0 0 ${told.toString(16)} 0 0 0 0 0`;
  }
  if (flags & REMOTE) return `${time} ${channel}  ${id.padEnd(15)} ${direction}   r ${length}`;
  return `${time} ${channel}  ${id.padEnd(15)} ${direction}   d ${length} ${data}`.trimEnd();
}
