/** What the step-by-step mode computes from. */
import type { Job } from "../job/job";
import { stripInput } from "../job/plan";
import type { JobEntry } from "../log/entry";
import { type HandsSnapshot, SNAPSHOT_FORMAT } from "../offline/snapshot";
import type { JobRowView } from "./overview";

/**
 * @param entries of the server's log: what waits on a device stands on top of them there
 * @param measured minutes of steps on the shop's closed jobs, by step
 * @param now ISO 8601, UTC
 */
export function handsSnapshot(
  { id, number, title, version }: Pick<JobRowView, "id" | "number" | "title" | "version">,
  { plan, state }: Job,
  entries: readonly JobEntry[],
  measured: Record<string, number[]>,
  person: { name: string; readOnly: boolean },
  now: string,
): HandsSnapshot {
  return {
    format: SNAPSHOT_FORMAT,
    job: { id, number, title },
    version,
    input: stripInput(plan, state, measured),
    entries: entries.filter((e) => e.kind.startsWith("strip.") || e.kind === "undo"),
    person: person.name,
    readOnly: person.readOnly || state.closed !== null,
    now,
  };
}
