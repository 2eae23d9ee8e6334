import { EXTENDED, FAST, FD, FD_LENGTHS, REMOTE } from "../frames";
import { type LogFormat, type LogSink, lineReader } from "./format";

/** The clock of these adapters runs from 0 to 59,999 ms and begins again. */
const CLOCK_MS = 60_000;
/** A command that the adapter refused. */
const BELL = "\u0007";
const FRAME = /^([tTrRdDbB])([0-9A-F]+)$/i;

/**
 * What a serial adapter says, as it was recorded: `t1A420102` and, behind it, the milliseconds of its clock in four
 * hexadecimal digits. Without them nothing is known of the time, so such lines are refused. `d`, `D`, `b`, `B` are FD
 * frames, without and with the faster rate (from memory). Source: slcan driver of the Linux kernel, can-utils.
 */
export const slcan: LogFormat = {
  name: "slcan",
  about: "t1A42010203E8",
  endings: ["slcan", "txt", "log"],
  unit: "line",
  recognises: (_, text) => {
    const lines = text
      .replaceAll(BELL, "")
      .split(/[\r\n]+/)
      .filter((l) => l !== "");
    return /^(t[0-7][0-9A-F]{2}[0-8]|T[01][0-9A-F]{7}[0-8])([0-9A-F]{2})*$/i.test(
      lines.find((l) => FRAME.test(l) && l.length > 3) ?? "",
    );
  },
  reader: (sink) => {
    const clock = { roundsMs: 0, lastMs: -1 };
    return lineReader(sink, (line) => readLine(line.replaceAll(BELL, "").trim(), sink, clock), "any");
  },
};

function readLine(line: string, sink: LogSink, clock: { roundsMs: number; lastMs: number }): void {
  // Answers to commands, versions, status.
  if (line === "" || (/^(?:[zZ]|[VNvF][0-9A-F]*|[SOLCYMmZ]\w*)$/i.test(line) && !/^[tTrRdDbB]/.test(line))) {
    sink.comments++;
    return;
  }
  const match = FRAME.exec(line);
  if (!match) return sink.bad("shape", "a frame begins with t, T, r, R, d, D, b or B and has hexadecimal digits", line);
  const [, kind = "", digits = ""] = match;
  const extended = kind === kind.toUpperCase();
  const width = extended ? 8 : 3;
  const id = Number.parseInt(digits.slice(0, width), 16);
  if (digits.length < width + 1 || id > (extended ? 0x1fff_ffff : 0x7ff))
    return sink.bad("identifier", `behind ${kind} ${width} digits of the identifier and the length are expected`, line);
  const fd = /[db]/i.test(kind);
  const remote = /r/i.test(kind);
  const code = Number.parseInt(digits[width] as string, 16);
  if (!fd && code > 8) return sink.bad("length", "a frame has at most 8 data bytes", line);
  const length = FD_LENGTHS[code] as number;
  const bytes = remote ? 0 : length;
  const rest = digits.slice(width + 1);
  if (rest.length === 2 * bytes)
    return sink.bad(
      "time",
      "no time stands behind the data; switch time stamps on in the adapter (Z1) and record again",
      line,
    );
  if (rest.length !== 2 * bytes + 4)
    return sink.bad("data", `${bytes} data bytes and four digits of time are expected`, line);
  const ms = Number.parseInt(rest.slice(2 * bytes), 16);
  if (ms >= CLOCK_MS) return sink.bad("time", "the clock of the adapter goes up to EA5F (59,999 ms)", line);
  if (ms < clock.lastMs) clock.roundsMs += CLOCK_MS;
  clock.lastMs = ms;
  sink.frames.add({
    timeS: (clock.roundsMs + ms) / 1000,
    id,
    flags: (extended ? EXTENDED : 0) | (remote ? REMOTE : 0) | (fd ? FD : 0) | (/b/i.test(kind) ? FAST : 0),
    channel: sink.channel("can0"),
    length,
    data: Array.from({ length: bytes }, (_, i) => Number.parseInt(rest.slice(2 * i, 2 * i + 2), 16)),
  });
}
