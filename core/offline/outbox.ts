/** Entries that a device keeps until the server has taken them: in order, without doubles, nothing lost. */
import type { Command } from "../log/entry";

export interface Waiting {
  id: string;
  body: Command;
  /** Version of the kind in the program that the device had; what was kept before versions were is of the first. */
  version?: number;
  /** When it was done, by the device's clock, ISO 8601. */
  at: string;
  /** The same by a clock that nobody sets, in milliseconds since the page was opened. */
  tick: number;
  /** Which opening of the page `tick` belongs to. */
  session: string;
  /** Who did it; nobody else's sign-in sends it. */
  by: string;
  /** A photo that goes first, kept under this identifier. */
  photo?: string;
  /** Why the server did not take it; it waits for a person. */
  refused?: string;
  /** The server has it; kept until the device has seen it in the log it got back. */
  sent?: true;
}

export interface Clock {
  wallMs: number;
  tickMs: number;
  session: string;
}

/**
 * Milliseconds since an entry was done. While the page stays open the clock that nobody sets counts, so that setting
 * the device's clock changes nothing; after a reload only the wall clock is left, and one that went backwards counts
 * as no time at all.
 */
export function ageMs(waiting: Pick<Waiting, "at" | "tick" | "session">, clock: Clock): number {
  if (waiting.session === clock.session) return Math.max(0, clock.tickMs - waiting.tick);
  return Math.max(0, clock.wallMs - Date.parse(waiting.at));
}

/** Adds an entry at the end; the same identifier twice stays one. */
export function push(list: readonly Waiting[], entry: Waiting): Waiting[] {
  return list.some((w) => w.id === entry.id) ? [...list] : [...list, entry];
}

export type Answer =
  | { kind: "taken" }
  /** The server looked at it and said no: it waits for a person, the others go on. */
  | { kind: "refused"; message: string }
  /** No answer that counts: nothing behind it may go before it. */
  | { kind: "later"; why: Stop };

/** Why nothing more is sent for now. */
export type Stop = "offline" | "signedOut" | "server" | "otherPerson";

export interface Flushed {
  taken: string[];
  refused: { id: string; message: string }[];
  /** Why it stopped before the end; null when everything was looked at. */
  stopped: Stop | null;
}

/**
 * Sends what waits, oldest first, one after the other, and stops at the first that got no answer or that somebody else
 * has done: it would stand in the log under the wrong name.
 *
 * @param person who is signed in
 * @param send never throws for a missing connection; it answers `later`
 */
export async function flush(
  list: readonly Waiting[],
  person: string,
  send: (entry: Waiting) => Promise<Answer>,
): Promise<Flushed> {
  const result: Flushed = { taken: [], refused: [], stopped: null };
  for (const entry of list) {
    if (!isOpen(entry)) continue;
    if (entry.by !== person) {
      result.stopped = "otherPerson";
      break;
    }
    const answer = await send(entry);
    if (answer.kind === "taken") result.taken.push(entry.id);
    else if (answer.kind === "refused") result.refused.push({ id: entry.id, message: answer.message });
    else {
      result.stopped = answer.why;
      break;
    }
  }
  return result;
}

/** The list with what others have done taken over by the person who is signed in, on purpose. */
export function adopt(list: readonly Waiting[], person: string): Waiting[] {
  return list.map((w) => (isOpen(w) ? { ...w, by: person } : w));
}

/** True for an entry that is still to be sent: neither with the server nor refused by it. */
export function isOpen(entry: Waiting): boolean {
  return entry.sent === undefined && entry.refused === undefined;
}

/** The list after a flush; what was added meanwhile stays. What was taken is kept as sent until `forget`. */
export function settle(list: readonly Waiting[], flushed: Flushed): Waiting[] {
  return list.map((w) => {
    if (flushed.taken.includes(w.id)) return { ...w, sent: true };
    const refusal = flushed.refused.find((r) => r.id === w.id);
    return refusal ? { ...w, refused: refusal.message } : w;
  });
}

/** The list without what the server's log shows already. */
export function forget(list: readonly Waiting[], known: ReadonlySet<string>): Waiting[] {
  return list.filter((w) => !known.has(w.id));
}
