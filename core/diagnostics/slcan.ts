/**
 * The text protocol of serial CAN adapters, as the Linux kernel's slcan driver and can-utils write it: `S6` 500 kbit/s,
 * `O` open, `L` listen only, `C` close, `tIIILDD..` and `TIIIIIIIILDD..` data frames; an answer ends with CR, a refusal
 * is BEL.
 */
import type { TimedFrame } from "./transcript";

/** Bit rates in kbit/s by the digit behind `S`. */
export const SLCAN_SPEEDS = [10, 20, 50, 100, 125, 250, 500, 800, 1000] as const;
export type SlcanSpeed = (typeof SLCAN_SPEEDS)[number];

/** Closes whatever is open, sets the bit rate, opens. A listening adapter never disturbs the bus. */
export function openCommands(kbit: SlcanSpeed, mode: "listen" | "send"): string[] {
  return ["C\r", `S${SLCAN_SPEEDS.indexOf(kbit)}\r`, mode === "listen" ? "L\r" : "O\r"];
}

export const CLOSE_COMMAND = "C\r";

export function slcanLine({ id, extended, data }: Pick<TimedFrame, "id" | "extended" | "data">): string {
  const address = id
    .toString(16)
    .toUpperCase()
    .padStart(extended ? 8 : 3, "0");
  const bytes = data.map((b) => b.toString(16).toUpperCase().padStart(2, "0")).join("");
  return `${extended ? "T" : "t"}${address}${data.length}${bytes}\r`;
}

export interface SlcanRead {
  frames: Omit<TimedFrame, "atMs">[];
  /** Commands that the adapter refused. */
  refused: number;
  /** Lines that are neither frame nor answer. */
  strange: string[];
  /** Text after the last line end, to be read with what comes next. */
  rest: string;
}

/** Reads what an adapter has sent. Remote frames, answers and time stamps behind the data are passed over. */
export function readSlcan(text: string): SlcanRead {
  const read: SlcanRead = { frames: [], refused: 0, strange: [], rest: "" };
  let line = "";
  for (const c of text) {
    if (c === "\u0007") {
      read.refused++;
      line = "";
    } else if (c === "\r") {
      readLine(line, read);
      line = "";
    } else if (c !== "\n") line += c;
  }
  read.rest = line;
  return read;
}

const FRAME = /^(?:t([0-7][0-9a-f]{2})|T([01][0-9a-f]{7}))([0-8])((?:[0-9a-f]{2})*)$/i;

function readLine(line: string, read: SlcanRead): void {
  // Bare answers, `z` and `Z` after a frame was taken, versions, status, remote frames.
  if (/^[zZ]?$|^[VNvF][0-9A-Fa-f]*$|^[rR][0-9A-Fa-f]+$/.test(line)) return;
  const match = FRAME.exec(line);
  const [, short, long, count = "0", bytes = ""] = match ?? [];
  const length = Number(count);
  // A time stamp of two bytes may follow.
  if (!match || (bytes.length !== 2 * length && bytes.length !== 2 * length + 4)) {
    read.strange.push(line);
    return;
  }
  const data = Array.from({ length }, (_, i) => Number.parseInt(bytes.slice(2 * i, 2 * i + 2), 16));
  read.frames.push({ id: Number.parseInt(short ?? long ?? "0", 16), extended: long !== undefined, data });
}
