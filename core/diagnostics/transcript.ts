/** A diagnostic conversation as frames: written as a log, and read back into what was asked and answered. */
import { candumpLine } from "../bus/formats/candump";
import { dataOf, EXTENDED, FrameBuilder, type Frames, keyAt } from "../bus/frames";
import { idKey } from "../bus/identifier";
import { type IsoTpConfig, type IsoTpState, idleIsoTp, isoTp } from "./iso-tp";
import { type Answer, readAnswer } from "./uds";

/** A frame of the conversation. Times in milliseconds from its beginning. */
export interface TimedFrame {
  atMs: number;
  id: number;
  extended?: boolean;
  data: readonly number[];
}

/** Where a control unit listens and answers. */
export interface UnitAddress {
  request: number;
  answer: number;
  extended?: boolean;
  /** Extended addressing: first byte of frames to the unit, and to the tester. */
  node?: { unit: number; tester: number };
}

/** ISO-TP as the tester speaks it with a unit. */
export function testerSide({ node }: UnitAddress): IsoTpConfig {
  return { padding: 0x55, ...(node ? { extended: { to: node.unit, own: node.tester } } : {}) };
}

/** ISO-TP as the unit speaks it with the tester. */
export function unitSide({ node }: UnitAddress): IsoTpConfig {
  return { padding: 0xaa, ...(node ? { extended: { to: node.tester, own: node.unit } } : {}) };
}

/** One request with how it ended. `null`: the log ends before an answer, or none came. */
export interface Exchange {
  atMs: number;
  request: number[];
  answer: Exclude<Answer, { kind: "pending" | "strange" }> | null;
}

/** Frames as a `candump -L` log. @param startS time of the first frame, in seconds since 1970 */
export function transcriptLog(frames: readonly TimedFrame[], startS: number): string {
  const builder = new FrameBuilder();
  for (const { atMs, id, extended, data } of frames)
    builder.add({
      timeS: startS + atMs / 1000,
      id,
      flags: extended ? EXTENDED : 0,
      channel: 0,
      length: data.length,
      data,
    });
  const all = builder.finish(["can0"]);
  return frames.map((_, i) => `${candumpLine(all, i)}\n`).join("");
}

/**
 * What was asked of one control unit and how it answered, in the order of asking. Only what the frames prove is told:
 * an answer that is cut off is none.
 */
export function exchanges(frames: Frames, unit: UnitAddress): Exchange[] {
  const { request, answer, extended = false } = unit;
  const links = new Map<number, IsoTpState>([
    [idKey(request, extended), idleIsoTp()],
    [idKey(answer, extended), idleIsoTp()],
  ]);
  const asked = idKey(request, extended);
  const found: Exchange[] = [];
  for (let i = 0; i < frames.count; i++) {
    const key = keyAt(frames, i);
    const link = links.get(key);
    if (!link) continue;
    const atMs = (frames.timeS[i] ?? 0) * 1000;
    const data = dataOf(frames, i);
    // A frame of the tester is read as the unit would read it.
    const step = isoTp(link, { kind: "frame", data }, atMs, key === asked ? unitSide(unit) : testerSide(unit));
    links.set(key, step.state);
    if (!step.received) continue;
    const open = found.at(-1);
    if (key === asked) found.push({ atMs, request: step.received, answer: null });
    else if (open && open.answer === null) {
      const read = readAnswer(open.request, step.received);
      if (read.kind === "positive" || read.kind === "refused") open.answer = read;
    }
  }
  return found;
}
