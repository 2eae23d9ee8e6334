/** Bits that change at each press of a key: toggles and counters. */
import type { Frames } from "../frames";
import { isProtection } from "../protection";
import type { Cue, Thing } from "./cues";
import { type Field, median } from "./states";
import { changingBits, type Stream } from "./streams";

/** A bit or counter that changes once with every press. */
export interface PressFinding extends Field {
  label: string;
  change: "toggle" | "counter";
  /** Presses at which it changed, of how many; and changes without a press. */
  met: number;
  presses: number;
  extra: number;
  delayS: number;
}

/** So long before and after its cue a press may show. */
const BEFORE_S = 0.4;

const AFTER_S = 0.8;

export const WINDOW_S = BEFORE_S + AFTER_S;

/** Bits that change once with each press of a key, and counters of presses. */
export function pressesOf(frames: Frames, stream: Stream, thing: Thing, cues: readonly Cue[]): PressFinding[] {
  if (thing.kind !== "keys") return [];
  const labels = [...new Set(cues.filter((c) => c.thing === thing.id).map((c) => c.label))];
  const found: PressFinding[] = [];
  const bits = changingBits(frames, stream).filter((b) => !isProtection(stream.protections, b));
  for (const label of labels) {
    const presses = cues
      .filter((c) => c.thing === thing.id && c.label === label)
      .map((c) => c.fromS)
      .sort((a, b) => a - b);
    if (presses.length < 3) continue;
    for (const bit of bits) {
      const changes = changesOf(frames, stream, bit, 1, 2 * presses.length + 2);
      if (!changes) continue;
      const onPress = presses.map((p) => changes.find((t) => t.atS >= p - BEFORE_S && t.atS <= p + AFTER_S));
      const met = onPress.filter((t) => t !== undefined).length;
      const extra = changes.length - met;
      if (met < 0.8 * presses.length || extra > 0.2 * presses.length) continue;
      const length = counterLength(frames, stream, bit, bits, presses);
      found.push({
        stream,
        startBit: bit,
        length,
        label,
        change: length > 1 ? "counter" : "toggle",
        met,
        presses: presses.length,
        extra,
        delayS: median(onPress.flatMap((t, i) => (t ? [t.atS - (presses[i] as number)] : []))),
      });
    }
  }
  return found;
}

/** Changes of a field with their values; null when there are more than `most`. */
function changesOf(
  frames: Frames,
  { rows }: Stream,
  startBit: number,
  length: number,
  most: number,
): { atS: number; from: number; to: number }[] | null {
  const read = (row: number) =>
    ((frames.data[(frames.at[row] as number) + (startBit >> 3)] as number) >> (startBit & 7)) & (2 ** length - 1);
  const found: { atS: number; from: number; to: number }[] = [];
  let before = read(rows[0] as number);
  for (const row of rows) {
    const now = read(row);
    if (now === before) continue;
    found.push({ atS: frames.timeS[row] as number, from: before, to: now });
    before = now;
    if (found.length > most) return null;
  }
  return found;
}

/** How many bits above the lowest one count with it: every change is a step up or every one a step down. */
function counterLength(
  frames: Frames,
  stream: Stream,
  low: number,
  bits: readonly number[],
  presses: readonly number[],
): number {
  let length = 1;
  while ((low & 7) + length < 8 && bits.includes(low + length)) {
    const size = 2 ** (length + 1);
    const changes = changesOf(frames, stream, low, length + 1, 2 * presses.length + 2);
    const steps = new Set(changes?.map((c) => (c.to - c.from + size) % size));
    if (!changes || steps.size !== 1 || !(steps.has(1) || steps.has(size - 1))) break;
    length++;
  }
  return length;
}
