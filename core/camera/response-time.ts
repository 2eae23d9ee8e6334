/** How soon the picture comes after reverse was selected: 49 CFR 571.111 S5.5.3, two seconds. */
import type { Verdict } from "./rear-view";

export const LATEST_S = 2;

/** How the time from selecting reverse to the picture was taken. */
export type TimeTaken =
  | { by: "stopwatch"; seconds: number }
  /** Frames of a video from the lever to the picture. */
  | { by: "frames"; frames: number; perSecond: number };

/** A thumb on a stopwatch is right to three tenths of a second twice: our judgement. */
const STOPWATCH_S = 0.3;

/** Seconds, their uncertainty, and what follows for the two seconds of the rule. */
export function responseTime(taken: TimeTaken): { seconds: number; offS: number; verdict: Verdict } {
  const seconds = taken.by === "stopwatch" ? taken.seconds : taken.frames / taken.perSecond;
  // Lever and picture each fall somewhere within a frame.
  const offS = taken.by === "stopwatch" ? STOPWATCH_S : 1 / taken.perSecond;
  const verdict = seconds + offS <= LATEST_S ? "meets" : seconds - offS > LATEST_S ? "doesNot" : "notShown";
  return { seconds, offS, verdict };
}
