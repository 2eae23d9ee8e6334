/** A translation played over one log, as it is shown. */
import type { Frames } from "~/core/bus/frames";
import type { Cue } from "~/core/bus/hunt/cues";
import { type FoundSignal, messagesOf } from "~/core/bus/hunt/found";
import { drawnPoints, pyramidOf } from "~/core/bus/pyramid";
import { means, proveTranslation } from "~/core/bus/translation/proof";
import { type OnStretch, type OutputTrace, replay } from "~/core/bus/translation/replay";
import { type OutputId, type Rule, signalsOf } from "~/core/bus/translation/translation";

/** A level where it changes; NaN while it is missing. */
export interface LevelTrack {
  durationS: number;
  timeS: number[];
  value: number[];
}

export interface ReplayShown {
  durationS: number;
  lanes: {
    output: OutputId;
    on: OnStretch[];
    cues: Cue[];
    /** A level as the way of a line through a lane of 1000 by 30; empty for others. */
    path: string;
  }[];
}

/** What the outputs of a translation do in a log, beside what was done on cue. */
export function replayIn(
  log: Frames,
  rules: readonly Rule[],
  signals: readonly FoundSignal[],
  cues: readonly Cue[],
): ReplayShown {
  const { messages, usable } = known(signals);
  const told = proveTranslation(log, { rules: rules.filter(usable) }, { messages }, cues);
  const { startS, durationS } = span(log);
  return {
    durationS,
    lanes: told.traces.map((t) => ({
      output: t.output,
      on: t.on.map((s) => ({ fromS: s.fromS - startS, toS: s.toS - startS })),
      cues: told.cues.filter((c) => means(t.output, c)),
      path: levelPath(t.level, startS, durationS),
    })),
  };
}

/** How a level of a translation goes through a log, in seconds from its beginning; null when it cannot be told. */
export function levelIn(log: Frames, rule: Rule, signals: readonly FoundSignal[]): LevelTrack | null {
  const { messages, usable } = known(signals);
  if (!usable(rule)) return null;
  const level = replay(log, { rules: [rule] }, { messages })[0]?.level;
  const { startS, durationS } = span(log);
  return level && level.timeS.length > 0
    ? { durationS, timeS: level.timeS.map((t) => t - startS), value: level.value }
    : null;
}

/** The messages of signals, and whether a rule asks for nothing beyond them. */
function known(signals: readonly FoundSignal[]) {
  const messages = messagesOf(signals, () => "");
  const names = new Set(messages.flatMap((m) => m.signals.map((s) => `${m.name}.${s.name}`)));
  const usable = (rule: Rule) => signalsOf(rule).length > 0 && signalsOf(rule).every((s) => names.has(s));
  return { messages, usable };
}

function span(log: Frames): { startS: number; durationS: number } {
  const startS = log.timeS[0] ?? 0;
  return { startS, durationS: (log.timeS[log.count - 1] ?? 0) - startS };
}

function levelPath({ timeS, value }: OutputTrace["level"], startS: number, durationS: number): string {
  const points = timeS.flatMap((t, i) => (Number.isNaN(value[i]) ? [] : [[t - startS, value[i] as number] as const]));
  const drawn = drawnPoints(
    pyramidOf({ timeS: Float64Array.from(points, ([t]) => t), value: Float64Array.from(points, ([, v]) => v) }),
    0,
    durationS,
    800,
  );
  const values = drawn.map(([, v]) => v);
  const [least, range] = [Math.min(...values), Math.max(...values) - Math.min(...values) || 1];
  return drawn
    .map(
      ([t, v], i) =>
        `${i === 0 ? "M" : "L"}${((1000 * t) / Math.max(1, durationS)).toFixed(1)} ${(27 - (24 * (v - least)) / range).toFixed(1)}`,
    )
    .join("");
}
