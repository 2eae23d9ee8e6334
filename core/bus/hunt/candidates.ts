/** Candidates for what was looked for: how sure each is, which say the same, and the cue that tells two apart. */
import type { Cue, Thing } from "./cues";
import type { ThingResult } from "./hunt";
import type { LevelFinding } from "./level-finding";
import type { PressFinding } from "./presses";
import type { Field, StateFinding } from "./states";

/** A finding with what it is worth. */
export type Candidate = (
  | ({ kind: "state" } & StateFinding)
  | ({ kind: "press" } & PressFinding)
  | ({ kind: "level" } & LevelFinding)
) & {
  /** Fits, 0 to 1; candidates are ordered by it. */
  score: number;
  /** Share of false ones among all that fit as well, found by cues at random times. */
  falseShare: number;
  /** It fits well and hardly by chance: it may be told as found. */
  sure: boolean;
  /** Fields that say the same, later or elsewhere. */
  repeats: Repeat[];
};

export interface Repeat {
  field: Field;
  /** So much later, in seconds. */
  byS: number;
}

export interface NextCue {
  /** What is to be done: a label of the thing, how. */
  label: string;
  how: "press" | "hold" | "again";
  reason: string;
}

/** What a finding that is told as found has at least, and how many that fit as well may be expected by chance. */
const SURE_FIT = 0.88;

const SURE_EXPECTED = 0.03;

export function nextLevel(thing: Thing, levels: number, found: number): NextCue | null {
  if (levels < 3)
    return { label: thing.name, how: "hold", reason: "hold it at three levels or more; two do not show a scale" };
  if (found === 0)
    return { label: thing.name, how: "again", reason: "no field follows it; hold each level for three seconds" };
  return null;
}

type Unjudged = Candidate extends infer C ? (C extends Candidate ? Omit<C, "sure" | "repeats"> : never) : never;

/** @param expected how many fit as well by chance */
export function judged(c: Unjudged, expected: number, fits = c.score): Candidate {
  return { ...c, sure: fits >= SURE_FIT && expected <= SURE_EXPECTED, repeats: [] };
}

/** Fits, and tells apart what was done: a code of its own counts more than only answering. */
export function stateScore(s: StateFinding, thing: Thing, labels: readonly string[]): number {
  const answered = labels.filter((l) => s.codes.get(l) !== s.codes.get(thing.rest)).length;
  const share = labels.length === 0 ? 0 : (0.3 * answered + 0.7 * ownCodes(s, thing, labels).length) / labels.length;
  return s.agreement * (0.6 + 0.4 * share);
}

/** Labels that have a code which neither rest nor another label has. */
export function ownCodes(s: Pick<StateFinding, "codes">, thing: Thing, labels: readonly string[]): string[] {
  const all = [thing.rest, ...labels];
  return labels.filter((l) => all.every((o) => o === l || s.codes.get(o) !== s.codes.get(l)));
}

export function byScore(a: Candidate, b: Candidate): number {
  // Of two that say the same in one message the later one is the checksum: it stands at the end.
  return b.score - a.score || delayOf(a) - delayOf(b) || a.stream.id - b.stream.id || a.startBit - b.startBit;
}

function delayOf(c: Candidate): number {
  return c.kind === "level" || Number.isNaN(c.delayS) ? 9 : c.delayS;
}

/** Fields that say exactly what a better one says, only later, are told with it; those in its own message are not sure. */
export function withoutRepeats(candidates: readonly Candidate[], excluded: ThingResult["excluded"]): Candidate[] {
  const kept: Candidate[] = [];
  for (const c of candidates) {
    const alike = c.kind === "state" ? kept.filter((k) => k.kind === "state" && saysTheSame(k, c)) : [];
    // In one message it may be a checksum or a copy, or the one that is meant: it stays, and the next cue is asked for.
    if (alike.some((k) => k.stream === c.stream)) {
      kept.push({ ...c, sure: false });
      continue;
    }
    const original = alike.find((k) => c.kind === "state" && k.kind === "state" && later(k, c));
    if (!original) {
      kept.push(c);
      continue;
    }
    const byS = delayOf(c) - delayOf(original);
    original.repeats.push({ field: c, byS });
    excluded.push({ field: c, reason: `says the same as a better one, ${Math.round(1000 * byS)} ms later` });
  }
  return kept;
}

function saysTheSame(a: StateFinding, b: StateFinding): boolean {
  const partition = (s: StateFinding) => {
    const seen = new Map<number, number>();
    return [...s.codes.keys()]
      .sort()
      .map((l) => {
        const code = s.codes.get(l) as number;
        if (!seen.has(code)) seen.set(code, seen.size);
        return seen.get(code);
      })
      .join();
  };
  return partition(a) === partition(b);
}

/** Later by more than the frames of the two lie apart. */
function later(a: StateFinding, b: StateFinding): boolean {
  return b.stream !== a.stream && b.delayS - a.delayS > 0.03;
}

export function nextCue(
  thing: Thing,
  cues: readonly Cue[],
  candidates: readonly Candidate[],
  labels: readonly string[],
): NextCue | null {
  const done = new Set(cues.map((c) => c.label));
  const few = [...done].find((l) => cues.filter((c) => c.label === l).length < 3);
  const [first, second] = candidates;
  const open = labels.find((l) => !done.has(l) && l !== thing.rest);
  if (!first)
    return few
      ? { label: few, how: "again", reason: "nothing follows it yet; three times or more tell it from chance" }
      : {
          label: [...done][0] ?? thing.rest,
          how: "hold",
          reason: "nothing follows it; hold it longer, and see that the bus is the right one",
        };
  if (second && second.score > 0.97 * first.score) {
    if (open)
      return {
        label: open,
        how: "press",
        reason: "several fields answer alike; another one tells which of them means this one only",
      };
    if (few)
      return { label: few, how: "again", reason: "several fields answer alike; more of the same tells them apart" };
    const short = [...done].find((l) => cues.every((c) => c.label !== l || c.toS - c.fromS < 2.5));
    if (short && thing.kind === "keys")
      return {
        label: short,
        how: "hold",
        reason: "several fields answer alike; a long hold tells pressed from just pressed",
      };
  }
  if (first.falseShare > 0.05 && few)
    return { label: few, how: "again", reason: "it may be chance; three times or more make it sure" };
  return null;
}
