/** What a person may take back, and what they did last. */
import type { Job } from "../job/job";
import type { EntryKind, JobEntry } from "../log/entry";
import { effective, kindNamed } from "../log/fold";

/** Closing and reopening are not taken back; of an undo the history does it again. */
const STAYS: readonly EntryKind[] = ["handover.close", "handover.reopen"];

export function mayTakeBack({ kind }: JobEntry): boolean {
  return !STAYS.includes(kind);
}

/** So long after it a press may still be a slip of the thumb. Our assumption. */
const SLIP_MS = 15 * 60_000;

/**
 * The last thing that a person did on the job, where it can still be a slip: nobody takes back what somebody else has
 * done by a button that does not show it.
 *
 * @param by name of the person
 * @param now ISO 8601, UTC
 */
export function lastDone(job: Job, by: string, now: string): { entry: string; words: string } | null {
  if (job.state.closed) return null;
  const last = effective(job.entries).at(-1);
  if (!last || last.by !== by || !mayTakeBack(last)) return null;
  if (Date.parse(now) - Date.parse(last.at) > SLIP_MS) return null;
  return { entry: last.id, words: kindNamed(last.kind).words(last.data, job.facts(now)) };
}
