/** The hunt in one log, as it is shown. */
import type { Dbc } from "~/core/bus/dbc-messages";
import { decodeSeries, messageFor } from "~/core/bus/decode";
import type { Frames } from "~/core/bus/frames";
import type { Alignment } from "~/core/bus/hunt/align";
import type { Candidate, NextCue } from "~/core/bus/hunt/candidates";
import { type Cue, onClock, type Thing } from "~/core/bus/hunt/cues";
import { type Finding, findingOf } from "~/core/bus/hunt/finding";
import { messagesOf } from "~/core/bus/hunt/found";
import { hunt } from "~/core/bus/hunt/hunt";
import { idText } from "~/core/bus/identifier";
import { drawnPoints, pyramidOf } from "~/core/bus/pyramid";
import { TELL_MS } from "./open";

/** A candidate of the hunt with what is drawn of it. Times in seconds from the beginning of the log. */
export interface HuntCandidate {
  key: string;
  finding: Finding;
  kind: "state" | "toggle" | "counter" | "level";
  /** Name that the bus description has for the message. */
  known: string | null;
  /** Share of the time, the presses or the differences that it accounts for, 0 to 1. */
  fits: number;
  sure: boolean;
  falseShare: number;
  delayS: number | null;
  misses: [number, number][];
  falseAlarms: [number, number][];
  repeats: { id: string; byS: number }[];
  points: [number, number][];
}
export interface HuntShown {
  alignment: Alignment;
  durationS: number;
  things: {
    thing: Thing;
    /** On the clock of the log. */
    cues: Cue[];
    candidates: HuntCandidate[];
    excluded: { id: string; bit: number; reason: string }[];
    next: NextCue | null;
  }[];
}

/**
 * Looks for what was done on cue.
 *
 * @param dbc names the messages that are known
 * @param cues in seconds from the beginning of the log
 * @param labels all that each thing can do, by its identifier
 */
export function huntIn(
  log: Frames,
  dbc: Dbc,
  things: readonly Thing[],
  cues: readonly Cue[],
  labels: Readonly<Record<string, readonly string[]>>,
  progress: (share: number) => void,
): HuntShown {
  const startS = log.timeS[0] ?? 0;
  let toldMs = performance.now();
  const result = hunt(
    log,
    things,
    cues.map((c) => ({ ...c, fromS: c.fromS + startS, toS: c.toS + startS })),
    {
      labels,
      progress(share) {
        if (performance.now() - toldMs < TELL_MS) return;
        toldMs = performance.now();
        progress(share);
      },
    },
  );
  const { alignment } = result;
  const onLog = onClock(cues, { ...alignment, startS: alignment.startS - startS });
  return {
    alignment,
    durationS: (log.timeS[log.count - 1] ?? 0) - startS,
    things: result.things.map((t) => ({
      thing: t.thing,
      cues: onLog.filter((c) => c.thing === t.thing.id),
      candidates: t.candidates.map((c) => shown(c, t.thing, log, dbc)),
      excluded: t.excluded.map((e) => ({
        id: idText(e.field.stream.id, e.field.stream.extended),
        bit: e.field.startBit,
        reason: e.reason,
      })),
      next: t.next,
    })),
  };
}

/** A candidate as it is shown. */
function shown(c: Candidate, thing: Thing, log: Frames, dbc: Dbc): HuntCandidate {
  const finding = findingOf(c, thing.unit);
  const [message] = messagesOf([{ ...finding, signal: "S", message: "M", file: "", thing: thing.name }], () => "");
  const signal = message?.signals.at(-1);
  if (!message || !signal) throw new Error("a finding has a signal");
  const { timeS, value } = decodeSeries(log, message, signal, c.stream.rows);
  const startS = log.timeS[0] ?? 0;
  const last = timeS.length > 0 ? (timeS[timeS.length - 1] as number) : 0;
  const points = drawnPoints(pyramidOf({ timeS, value }), timeS[0] ?? 0, last, 700);
  return {
    finding,
    key: `${c.kind} ${idText(finding.id, finding.extended)} ${finding.startBit} ${finding.length} ${finding.page?.value ?? ""}`,
    kind: c.kind === "press" ? c.change : c.kind,
    known: messageFor(dbc, finding.id, finding.extended)?.name ?? null,
    fits: c.kind === "state" ? c.agreement : c.score,
    sure: c.sure,
    falseShare: c.falseShare,
    delayS: c.kind === "level" ? null : c.delayS,
    misses: c.kind === "state" ? c.misses.map((s) => [s.fromS - startS, s.toS - startS]) : [],
    falseAlarms: c.kind === "state" ? c.falseAlarms.map((s) => [s.fromS - startS, s.toS - startS]) : [],
    repeats: c.repeats.map((r) => ({ id: idText(r.field.stream.id, r.field.stream.extended), byS: r.byS })),
    points: points.map(([t, v]) => [t - startS, v]),
  };
}
