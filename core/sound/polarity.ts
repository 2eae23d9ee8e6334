/** Which way loudspeakers are connected, from a recording of the pulse or from what sounds fuller; and hum. */
import { CORNERS, type Corner } from "../prove/corners";
import { onePulse } from "./test-signals";

/** A pulse in a recording. */
export interface PulseHeard {
  /** 1: as it was played; -1: turned round; 0: no pulse that is surely ours. */
  sign: 1 | -1 | 0;
  /** Normalised cross-correlation at its best place, -1 to 1. */
  likeness: number;
}

/** Below that it may as well be noise; a loudspeaker and a cheap microphone together leave about 0.8 (our judgement). */
const SURE = 0.5;

/**
 * Looks for the pulse in a recording by normalised cross-correlation, best place first.
 *
 * @param rate samples a second; the pulse is made for the same
 */
export function findPulse(recording: Float32Array, rate: number): PulseHeard {
  const pulse = onePulse(rate);
  const n = pulse.length;
  const energy = pulse.reduce((s, v) => s + v * v, 0);
  let window = 0;
  for (let i = 0; i < Math.min(n, recording.length); i++) window += (recording[i] as number) ** 2;
  let best = 0;
  let loudest = 0;
  for (let at = 0; at + n <= recording.length; at++) {
    loudest = Math.max(loudest, window);
    // What is far below the loudest stretch is silence, however alike.
    if (window > 0.1 * loudest) {
      let sum = 0;
      for (let i = 0; i < n; i++) sum += (recording[at + i] as number) * (pulse[i] as number);
      const likeness = sum / Math.sqrt(window * energy || 1);
      if (Math.abs(likeness) > Math.abs(best)) best = likeness;
    }
    const [out, next] = [recording[at] as number, recording[at + n] ?? 0];
    window = Math.max(0, window - out * out + next * next);
  }
  return { sign: Math.abs(best) < SURE ? 0 : best > 0 ? 1 : -1, likeness: best };
}

/** The pairs that a stereo source can play against each other: left and right, in front and in the rear. */
export const PAIRS = { front: ["LF", "RF"], rear: ["LR", "RR"] } as const satisfies Record<string, readonly Corner[]>;
export type Pair = keyof typeof PAIRS;
export const PAIR_IDS = Object.keys(PAIRS) as [Pair, ...Pair[]];
/** What sounded fuller in the bass: both sides the same way, one turned round, or neither. */
export type Fuller = "same" | "opposite" | "alike";

export type PolarityOutcome =
  | { kind: "open"; left: Pair[] }
  | { kind: "right" }
  /** `either`: by ear only that one of the pair is turned round, not which; turning either cures it. */
  | { kind: "reversed"; corners: Corner[]; either: boolean }
  | { kind: "unclear"; where: string };

/**
 * What follows from what was heard. The microphone tells each corner against the others: the fewer ones are turned round,
 * because a car with most of its loudspeakers turned round plays as one with none.
 */
export function polarityOutcome(
  ear: ReadonlyMap<Pair, Fuller>,
  microphone: ReadonlyMap<Corner, 1 | -1 | 0>,
): PolarityOutcome {
  if (CORNERS.every((c) => microphone.has(c))) {
    const unsure = CORNERS.find((c) => microphone.get(c) === 0);
    if (unsure) return { kind: "unclear", where: unsure };
    const [plus, minus] = [1, -1].map((s) => CORNERS.filter((c) => microphone.get(c) === s)) as [Corner[], Corner[]];
    // Two against two: the rear is easier to reach, so it is what is turned.
    const rear = (c: readonly Corner[]) => c.filter((x) => x.endsWith("R")).length;
    const fewer =
      plus.length !== minus.length
        ? plus.length < minus.length
          ? plus
          : minus
        : rear(plus) > rear(minus)
          ? plus
          : minus;
    return fewer.length === 0 ? { kind: "right" } : { kind: "reversed", corners: fewer, either: false };
  }
  const left = PAIR_IDS.filter((p) => !ear.has(p));
  if (left.length > 0) return { kind: "open", left };
  const alike = PAIR_IDS.find((p) => ear.get(p) === "alike");
  const corners = PAIR_IDS.flatMap((p): Corner[] => (ear.get(p) === "opposite" ? [PAIRS[p][1]] : []));
  if (corners.length > 0) return { kind: "reversed", corners, either: true };
  return alike ? { kind: "unclear", where: alike } : { kind: "right" };
}

/** Mains and what follows it: the first and its multiples. */
const HARMONICS = [1, 2, 3, 4, 5, 6] as const;

/** Level of a tone in a recording in dBFS, by Goertzel's algorithm on whole periods (from memory). */
export function toneLevel(recording: Float32Array, rate: number, hz: number): number {
  const periods = Math.floor((recording.length * hz) / rate);
  const n = Math.round((periods * rate) / hz);
  const twice = 2 * Math.cos((2 * Math.PI * hz) / rate);
  let [before, last] = [0, 0];
  for (let i = 0; i < n; i++) [before, last] = [last, (recording[i] as number) + twice * last - before];
  const power = before * before + last * last - twice * before * last;
  // An amplitude of 1 is 0 dBFS, as AES17 has it for a sine.
  return 20 * Math.log10(Math.max(1e-9, (2 * Math.sqrt(Math.max(0, power))) / n));
}

export interface Hum {
  hz: 50 | 60;
  /** Levels of the first six multiples in dBFS. */
  levels: number[];
  /** All of them together. */
  totalDb: number;
}

/** A change that an ear notices at once (common practice). */
export const HEARD_DB = 3;

/** What an added ground lead takes away, in decibels; null until it was measured with and without. */
export function humGain(hum: ReadonlyMap<"with" | "without", Pick<Hum, "totalDb">>): number | null {
  const [without, grounded] = [hum.get("without"), hum.get("with")];
  return without && grounded ? without.totalDb - grounded.totalDb : null;
}

/** The stronger of 50 and 60 Hz with its multiples. */
export function humOf(recording: Float32Array, rate: number): Hum {
  const [a, b] = ([50, 60] as const).map((hz): Hum => {
    const levels = HARMONICS.map((h) => toneLevel(recording, rate, h * hz));
    return { hz, levels, totalDb: 10 * Math.log10(levels.reduce((s, l) => s + 10 ** (l / 10), 0)) };
  }) as [Hum, Hum];
  return a.totalDb >= b.totalDb ? a : b;
}
