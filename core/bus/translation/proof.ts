/** Whether a translation does in a log what was done on cue: by numbers, and only in a log that was not used for finding. */
import type { Dbc } from "../dbc-messages";
import type { Frames } from "../frames";
import { align } from "../hunt/align";
import { type Cue, GUARD_S, onClock } from "../hunt/cues";
import { streamsOf } from "../hunt/streams";
import { type OutputTrace, replay } from "./replay";
import { OUTPUTS, type OutputId, type Rule, type Translation } from "./translation";

/** What one output did against the cues that mean it. */
export interface OutputProof {
  output: OutputId;
  /** How often it was cued; 0: it was not tried in this log. */
  cued: number;
  met: number;
  /** Cues that it did not follow, and stretches in which it was on without one; seconds from the first frame. */
  misses: { label: string; atS: number }[];
  falseAlarms: { fromS: number; toS: number }[];
  /** Median and largest time from the cue to the output, in seconds; null when it never followed. */
  delayS: number | null;
  worstDelayS: number | null;
  /** Largest distance of a level from what was held, in its unit; null for what is no level. */
  worstError: number | null;
  passed: boolean;
}

/** An output must follow within so much; the rear picture must be there after two seconds. Source: common practice. */
const WITHIN_S = 1;
/** A level may be off by so much of the range that was cued. */
const LEVEL_TOLERANCE = 0.05;

/** Which cues mean an output: a thing, one of its labels; a level has none. */
const MEANT: Readonly<Record<OutputId, (c: Cue) => boolean>> = {
  accessory: (c) => c.thing === "key" && c.label !== "off",
  reverse: (c) => c.thing === "selector" && c.label === "R",
  lights: (c) => c.thing === "lights" && c.label === "on",
  volumeUp: (c) => c.thing === "wheelKeys" && c.label === "volume up",
  volumeDown: (c) => c.thing === "wheelKeys" && c.label === "volume down",
  next: (c) => c.thing === "wheelKeys" && c.label === "next",
  back: (c) => c.thing === "wheelKeys" && c.label === "back",
  phone: (c) => c.thing === "wheelKeys" && c.label === "phone",
  voice: (c) => c.thing === "wheelKeys" && c.label === "voice",
  steering: (c) => c.thing === "steering" && c.value !== undefined,
  motionLock: (c) => c.thing === "speed" && c.value !== undefined && c.value > 5,
};

/** True for a cue on which an output must follow. */
export function means(output: OutputId, cue: Cue): boolean {
  return MEANT[output](cue);
}

/** Replays a log and holds every output against its cues. @param cues in seconds from the first frame */
export function proveTranslation(
  frames: Frames,
  translation: Translation,
  dbc: Pick<Dbc, "messages">,
  cues: readonly Cue[],
): { outputs: OutputProof[]; traces: OutputTrace[]; cues: Cue[] } {
  const startS = frames.timeS[0] ?? 0;
  const absolute = cues.map((c) => ({ ...c, fromS: c.fromS + startS, toS: c.toS + startS }));
  const clock = cues.length === 0 ? null : align(frames, streamsOf(frames), absolute);
  const onLog = clock ? onClock(absolute, clock) : [];
  const traces = replay(frames, translation, dbc);
  const outputs = traces.map((trace, i) => {
    const rule = translation.rules[i] as Rule;
    const own = onLog.filter((c) => means(trace.output, c));
    return OUTPUTS[trace.output].kind === "level"
      ? levelProof(trace, own, startS)
      : switchProof(trace, rule, own, startS);
  });
  return { outputs, traces, cues: onLog.map((c) => ({ ...c, fromS: c.fromS - startS, toS: c.toS - startS })) };
}

function switchProof(
  { output, on, presses }: OutputTrace,
  rule: Rule,
  cues: readonly Cue[],
  startS: number,
): OutputProof {
  const isKey = OUTPUTS[output].kind === "key";
  const misses: OutputProof["misses"] = [];
  const delays: number[] = [];
  const used = new Set<number>();
  for (const c of cues) {
    const index = on.findIndex((s, i) => !used.has(i) && s.fromS < c.toS + WITHIN_S && s.toS > c.fromS - WITHIN_S);
    const stretch = on[index];
    // A press near the border between short and long may be either.
    const long =
      c.toS - c.fromS > rule.longMs / 1000 + 2 * GUARD_S
        ? true
        : c.toS - c.fromS < rule.longMs / 1000 - 2 * GUARD_S
          ? false
          : null;
    const pressed = stretch && presses.find((p) => p.atS >= stretch.fromS && p.atS <= stretch.toS + 1e-6);
    const wrongPress = isKey && long !== null && pressed?.long !== long;
    if (!stretch || Math.abs(stretch.fromS - c.fromS) > WITHIN_S || wrongPress) {
      misses.push({ label: c.label, atS: c.fromS - startS });
      if (stretch) used.add(index);
      continue;
    }
    used.add(index);
    delays.push(stretch.fromS - c.fromS);
  }
  const falseAlarms = on
    .filter((_, i) => !used.has(i))
    // A lock that is on because nothing is known yet is as it should be.
    .filter((s) => !(OUTPUTS[output].kind === "lock" && s.fromS - startS < rule.timeoutMs / 1000))
    .map((s) => ({ fromS: s.fromS - startS, toS: s.toS - startS }));
  return {
    output,
    cued: cues.length,
    met: cues.length - misses.length,
    misses,
    falseAlarms,
    ...delayOf(delays),
    worstError: null,
    passed: cues.length > 0 && misses.length === 0 && falseAlarms.length === 0,
  };
}

function levelProof({ output, level }: OutputTrace, cues: readonly Cue[], startS: number): OutputProof {
  const values = cues.map((c) => c.value ?? 0);
  const range = Math.max(...values, 0) - Math.min(...values, 0);
  const misses: OutputProof["misses"] = [];
  let worst: number | null = null;
  for (const c of cues) {
    // In the middle of the hold nobody moves it any more.
    const middle = valueAt(level, (c.fromS + c.toS) / 2);
    const error = Math.abs(middle - (c.value ?? 0));
    if (!Number.isNaN(error)) worst = Math.max(worst ?? 0, error);
    if (!(error <= LEVEL_TOLERANCE * range)) misses.push({ label: c.label, atS: c.fromS - startS });
  }
  return {
    output,
    cued: cues.length,
    met: cues.length - misses.length,
    misses,
    falseAlarms: [],
    delayS: null,
    worstDelayS: null,
    worstError: worst,
    passed: cues.length > 0 && misses.length === 0,
  };
}

function valueAt({ timeS, value }: OutputTrace["level"], atS: number): number {
  let found = Number.NaN;
  for (let i = 0; i < timeS.length && (timeS[i] as number) <= atS; i++) found = value[i] as number;
  return found;
}

function delayOf(delays: readonly number[]): { delayS: number | null; worstDelayS: number | null } {
  if (delays.length === 0) return { delayS: null, worstDelayS: null };
  const sorted = [...delays].sort((a, b) => a - b);
  return { delayS: sorted[sorted.length >> 1] as number, worstDelayS: Math.max(...delays) };
}
