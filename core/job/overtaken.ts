/** Two devices say different things of one place: that which was done later counts, whichever arrives first. */
import { effective, kindNamed } from "../log/fold";
import { type Refusal, refuse } from "../log/kind";
import { countWords } from "../model/labels";
import type { Asked } from "./decide";
import type { Job } from "./job";

/** So much earlier is no order of doing: the clocks of two machines differ by less. Our assumption. */
const SAME_MOMENT_MS = 1000;

/** Until when something counts as done before a press of a moment, ISO 8601, UTC. */
export function untilMoment(at: string): string {
  return new Date(Date.parse(at) + SAME_MOMENT_MS).toISOString();
}

/**
 * What stands against a press that was made without connection and arrives late: somebody has noted the same thing
 * otherwise since. Null for everything else, also where both say the same.
 */
export function overtaken(job: Job, { command, at }: Asked): Refusal | null {
  const { says } = kindNamed(command.kind);
  if (!says) return null;
  const done = untilMoment(at);
  if (!job.entries.some((e) => e.at > done)) return null;
  const mine = says(command.data);
  // Of each thing the last word alone: who noted it otherwise and then as it is here stands against nothing.
  const open = new Set(Object.keys(mine));
  for (const entry of effective(job.entries).toReversed()) {
    if (entry.kind !== command.kind || entry.at <= done) continue;
    const theirs = says(entry.data);
    const told = Object.keys(theirs).filter((k) => open.delete(k));
    if (told.every((k) => theirs[k] === mine[k])) continue;
    const later = Math.max(1, Math.round((Date.parse(entry.at) - Date.parse(at)) / 60_000));
    const words = kindNamed(entry.kind).words(entry.data, job.facts(entry.at));
    return {
      ...refuse(
        "two devices",
        `${entry.by} noted it otherwise ${countWords(later, "minute")} after this was done: ${words}. The later counts.`,
        "Look how it stands. If it is as noted here, press it once more.",
      ),
      theirs: entry,
    };
  }
  return null;
}
