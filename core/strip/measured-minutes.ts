/** Minutes that steps really took, from the times at which they were ticked. */
import type { JobEntry } from "../log/entry";
import { effective } from "../log/fold";
import type { StripPlan } from "../model/profile";
import { prepStepOf } from "./vehicle-state";

/** Entries that follow each other faster than this were ticked together afterwards. */
const TOGETHER_MS = 10_000;

/** A longer gap is a pause, not work. */
const LONGEST_MS = 30 * 60_000;

/**
 * Real minutes of the steps of one job on the way in: from the entry before, of the same person, to the tick. Pauses
 * over half an hour count as nothing known. Steps ticked within ten seconds of each other were done before and share
 * their time in proportion to the plan.
 */
export function minutesOfJob(plan: StripPlan, entries: readonly JobEntry[]): Map<string, number> {
  const usual = new Map(plan.steps.map((s) => [s.id, s.minutes.likely]));
  const measured = new Map<string, number>();
  const lastOf = new Map<string, number>();
  const batchOf = new Map<string, { steps: string[]; ms: number }>();
  const close = (by: string) => {
    const batch = batchOf.get(by);
    batchOf.delete(by);
    if (!batch || batch.ms <= 0 || batch.ms > LONGEST_MS * batch.steps.length) return;
    const weight = (id: string) => usual.get(id) ?? prepStepOf(plan, id)?.minutes ?? 1;
    const whole = batch.steps.reduce((n, id) => n + weight(id), 0);
    for (const id of batch.steps) if (usual.has(id)) measured.set(id, (batch.ms / 60_000) * (weight(id) / whole));
  };
  for (const e of effective(entries)) {
    const at = Date.parse(e.at);
    const before = lastOf.get(e.by);
    lastOf.set(e.by, at);
    const isStep = e.kind === "strip.step" && e.data.direction === "in";
    const gap = before === undefined ? Number.POSITIVE_INFINITY : at - before;
    const batch = batchOf.get(e.by);
    if (isStep && batch && gap >= 0 && gap < TOGETHER_MS) {
      batch.steps.push(e.data.step);
      batch.ms += gap;
      continue;
    }
    close(e.by);
    if (isStep && gap > 0 && gap <= LONGEST_MS) batchOf.set(e.by, { steps: [e.data.step], ms: gap });
  }
  for (const by of [...batchOf.keys()]) close(by);
  return measured;
}

/** Minutes of all jobs by step, for estimates. */
export function measuredMinutes(plan: StripPlan, jobs: readonly (readonly JobEntry[])[]): Record<string, number[]> {
  const all: Record<string, number[]> = {};
  for (const entries of jobs)
    for (const [step, minutes] of minutesOfJob(plan, entries)) all[step] = [...(all[step] ?? []), minutes];
  return all;
}
