import type { LineProblem } from "../errors";
import { type Columns, FrameBuilder, type Frames } from "../frames";

/** A format of logs. A new one is a module beside this and a line in `log.ts`. */
export interface LogFormat {
  /** As it is named where the formats are explained. */
  name: string;
  /** What a line of it looks like, for those who want to know whether theirs is read. */
  about: string;
  /** Usual endings of file names, without the dot. */
  endings: readonly string[];
  /** What is counted: lines of a text, packets of a capture. */
  unit: "line" | "packet";
  /** Each line is read by itself, so that parts of a log can be read side by side. */
  linewise?: true;
  /** @param head the first bytes of the file; `text` the same as text */
  recognises(head: Uint8Array, text: string): boolean;
  reader(sink: LogSink): FormatReader;
  /** Writes frames in this format, piece by piece. */
  write?(frames: Frames): Generator<string>;
}

export interface FormatReader {
  /**
   * Reads what is complete in `bytes` and returns how many bytes that was; the rest comes again with what follows.
   *
   * @param last nothing follows: what is left is read as far as it goes
   */
  read(bytes: Uint8Array, last: boolean): number;
}

/** A read log. Every line is a frame, a bad line, or a comment. */
export interface ParsedLog {
  /** Name of the format. */
  format: string;
  unit: LogFormat["unit"];
  frames: Frames;
  /** At most `MAX_PROBLEMS`; `badLines` counts all. */
  problems: LineProblem[];
  badLines: number;
  /** Lines that belong to the file and hold no frame: empty ones, headers, events. */
  comments: number;
  lines: number;
  /** What else has to be said: how columns were understood, that the file breaks off. */
  notes: string[];
}

/** What was read of some lines of a log. */
export type ReadPart = Omit<ParsedLog, "format" | "unit" | "notes" | "frames"> & {
  frames: Columns;
  channels: string[];
};

/** Problems kept for showing; a file of another kind would else repeat one message a million times. */
const MAX_PROBLEMS = 100;
/** Buses of one log; the last one takes all beyond. */
const MAX_CHANNELS = 255;

/** Takes what a reader finds and counts it. */
export class LogSink {
  readonly frames = new FrameBuilder();
  readonly channels: string[] = [];
  readonly problems: LineProblem[] = [];
  readonly notes: string[] = [];
  badLines = 0;
  comments = 0;
  lines = 0;

  /** Index of a bus by its name. */
  channel(name: string): number {
    const index = this.channels.indexOf(name);
    if (index >= 0) return index;
    return this.channels.length < MAX_CHANNELS ? this.channels.push(name) - 1 : MAX_CHANNELS - 1;
  }

  /** Takes over what was read elsewhere of the lines that follow here. */
  take({ frames, channels, problems, badLines, comments, lines }: ReadPart): void {
    this.frames.take(
      frames,
      channels.map((name) => this.channel(name)),
    );
    for (const p of problems)
      if (this.problems.length < MAX_PROBLEMS) this.problems.push({ ...p, line: p.line + this.lines });
    this.badLines += badLines;
    this.comments += comments;
    this.lines += lines;
  }

  /** Notes the line that is being read as bad. */
  bad(code: LineProblem["code"], problem: string, text: string): void {
    this.badLines++;
    if (this.problems.length < MAX_PROBLEMS)
      this.problems.push({ line: this.lines, code, problem, text: text.slice(0, 80) });
  }

  /** What was read, for another sink to take over. */
  part(): ReadPart {
    const { channels, problems, badLines, comments, lines } = this;
    return { frames: this.frames.columns(), channels, problems, badLines, comments, lines };
  }

  finish({ name, unit }: LogFormat): ParsedLog {
    const { problems, badLines, comments, lines, notes } = this;
    return {
      format: name,
      unit,
      frames: this.frames.finish(this.channels),
      problems,
      badLines,
      comments,
      lines,
      notes,
    };
  }
}

/** Reads a whole log in a format that is known. */
export function readAs(format: LogFormat, bytes: Uint8Array): ParsedLog {
  const sink = new LogSink();
  format.reader(sink).read(bytes, true);
  return sink.finish(format);
}

const LF = 10;
const CR = 13;

/** Reads a text line by line. @param line gets each line without its end; `bytes` from `start` to `end` */
export function lineReader(sink: LogSink, line: (text: string) => void, ends: "lf" | "any" = "lf"): FormatReader {
  const decoder = new TextDecoder();
  return {
    read(bytes, last) {
      let start = 0;
      while (start < bytes.length) {
        let end = start;
        while (end < bytes.length && bytes[end] !== LF && (ends === "lf" || bytes[end] !== CR)) end++;
        if (end === bytes.length && !last) break;
        sink.lines++;
        const text = decoder.decode(bytes.subarray(start, bytes[end - 1] === CR && end > start ? end - 1 : end));
        line(text);
        start = end + 1;
      }
      return Math.min(start, bytes.length);
    },
  };
}

/** How many of the bytes are whole lines. */
export function wholeLines(bytes: Uint8Array, last: boolean): number {
  return last ? bytes.length : bytes.lastIndexOf(LF) + 1;
}
