import { MAX_PROBLEMS, type ParsedLog } from "./candump";
import type { LineProblem } from "./errors";
import { FrameBuilder } from "./frames";

/** Lines that belong to the file and hold no frame. */
const HEADER =
  /^(?:date\b|base\b|(?:no )?internal events? logged|\/\/|begin trigger\s?block|end trigger\s?block|;|#|previous log file|next log file|split file)/i;
/** What an event line says behind its time: starts, triggers, statistics, variables. */
const EVENT =
  /^(?:start of measurement|log |can \d+ status|statistic|sv:|gps|\/\/|\d+\s+statistic|\d+\s+(?:status|busload))/i;

const MAX_CHANNEL = 64;

/**
 * Reads the ASC text log: `0.002367 1  390x  Rx   d 8 17 00 14 00 C0 00 08 00`. `base dec` and `timestamps relative` of
 * the header are followed. Channels become `can0`, `can1`... for 1, 2...
 *
 * Every line is a frame, a bad line with its reason, or a header, event or comment; frames of the longer kind, remote
 * requests and error frames are named and not kept.
 */
export function parseAsc(text: string): ParsedLog {
  const reader = new AscReader();
  const lines = text.split(/\r?\n/);
  // The end of the last line is no line of its own.
  if (lines.at(-1) === "") lines.pop();
  lines.forEach((line, i) => {
    reader.line(line.trim(), i + 1);
  });
  return {
    frames: reader.builder.finish(reader.channels),
    problems: reader.problems,
    badLines: reader.badLines,
    comments: reader.comments,
    lines: lines.length,
  };
}

class AscReader {
  readonly builder = new FrameBuilder();
  readonly channels: string[] = [];
  readonly problems: LineProblem[] = [];
  badLines = 0;
  comments = 0;
  private base = 16;
  private relative = false;
  private timeS = 0;

  line(line: string, number: number): void {
    if (line === "" || HEADER.test(line)) {
      this.comments++;
      const base = /^base\s+(hex|dec)\b/i.exec(line)?.[1];
      if (base) this.base = base.toLowerCase() === "dec" ? 10 : 16;
      const stamps = /\btimestamps\s+(absolute|relative)\b/i.exec(line)?.[1];
      if (stamps) this.relative = stamps.toLowerCase() === "relative";
      return;
    }
    const fields = line.split(/\s+/);
    const [time = ""] = fields;
    if (!/^\d{1,10}(\.\d{1,12})?$/.test(time))
      return this.bad(line, number, "time", "it must start with the time in seconds");
    // Relative times count from the line before, whatever that was.
    this.timeS = this.relative ? this.timeS + Number(time) : Number(time);
    const rest = line.slice(time.length).trim();
    if (EVENT.test(rest)) {
      this.comments++;
      return;
    }
    const problem = this.frame(fields);
    if (problem) this.bad(line, number, problem[0], problem[1]);
  }

  private frame(fields: readonly string[]): [LineProblem["code"], string] | null {
    const [, channel = "", identifier = "", direction = "", type = "", length = "", ...bytes] = fields;
    if (/^canfd$/i.test(channel)) return ["length", "frames of the longer kind (CANFD) are not read"];
    if (!/^\d{1,2}$/.test(channel) || Number(channel) < 1 || Number(channel) > MAX_CHANNEL)
      return ["shape", `after the time a channel from 1 to ${MAX_CHANNEL} is expected`];
    if (/^errorframe$/i.test(identifier))
      return ["shape", "an error frame of the bus carries no message and is left out"];
    const extended = /x$/i.test(identifier);
    const digits = extended ? identifier.slice(0, -1) : identifier;
    const id = this.number(digits);
    const most = extended ? 0x1fff_ffff : 0x7ff;
    if (id === null || id > most)
      return [
        "identifier",
        `“${identifier.slice(0, 20)}” is no identifier: ${this.base === 16 ? "hexadecimal" : "decimal"}, up to ${most.toString(this.base).toUpperCase()}${extended ? " with an x" : ""}`,
      ];
    if (!/^(?:Rx|Tx|TxRq)$/i.test(direction)) return ["shape", "after the identifier Rx or Tx is expected"];
    if (/^r$/i.test(type)) return ["remote", "a remote request carries no data and is left out"];
    if (!/^d$/i.test(type)) return ["shape", "after the direction d for a data frame is expected"];
    const count = this.number(length);
    if (count === null || count > 8) return ["length", "a frame has at most 8 data bytes"];
    const values = bytes.slice(0, count).map((b) => this.number(b) ?? 256);
    if (values.length < count || values.some((v) => v > 255))
      return ["data", `${count} data bytes are expected, ${this.base === 16 ? "hexadecimal" : "decimal"}`];
    this.keep(id, extended, `can${Number(channel) - 1}`, values);
    return null;
  }

  private keep(id: number, extended: boolean, channel: string, values: readonly number[]): void {
    let index = this.channels.indexOf(channel);
    if (index < 0) index = this.channels.push(channel) - 1;
    const f = this.builder.row();
    f.timeS[f.count] = this.timeS;
    f.id[f.count] = id;
    f.extended[f.count] = extended ? 1 : 0;
    f.length[f.count] = values.length;
    f.channel[f.count] = index;
    f.data.set(values, 8 * f.count);
    this.builder.next();
  }

  /** Null for what is no whole number in the base of the file. */
  private number(text: string): number | null {
    const shape = this.base === 16 ? /^[0-9a-f]{1,8}$/i : /^\d{1,10}$/;
    return shape.test(text) ? Number.parseInt(text, this.base) : null;
  }

  private bad(line: string, number: number, code: LineProblem["code"], problem: string): void {
    this.badLines++;
    if (this.problems.length < MAX_PROBLEMS)
      this.problems.push({ line: number, code, problem, text: line.slice(0, 80) });
  }
}
