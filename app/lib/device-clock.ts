/** The time of day on this device, put right by the server's clock. */
import { useSyncExternalStore } from "react";
import { clockError, clockWords, rightMs } from "~/core/offline/device-clock";

const KEY = "iteron/clock";
const listeners = new Set<() => void>();
let errorMs: number | null = null;

/** What was learned last; without connection it is known from before. */
function known(): number {
  if (errorMs === null) {
    try {
      errorMs = Number(localStorage.getItem(KEY)) || 0;
    } catch {
      errorMs = 0;
    }
  }
  return errorMs;
}

/** Learns from an answer that came straight from the server. */
export function learnClock(answer: Response, sentMs: number): void {
  const error = clockError(answer.headers.get("date"), sentMs, Date.now());
  if (error === null) return;
  errorMs = error;
  try {
    localStorage.setItem(KEY, String(Math.round(error)));
  } catch {
    // It is known while the page stays open.
  }
  for (const tell of listeners) tell();
}

/** Milliseconds since 1970, by the server's clock where this device's is wrong. */
export function nowMs(): number {
  return rightMs(Date.now(), known());
}

export function nowIso(): string {
  return new Date(nowMs()).toISOString();
}

/** What is to be said of this device's clock; null when it is right. */
export function useClockWords(): string | null {
  return useSyncExternalStore(
    (tell) => {
      listeners.add(tell);
      return () => listeners.delete(tell);
    },
    () => clockWords(known()),
    () => null,
  );
}
