/** What Hand over shows of a job. */
import { drawnDash } from "../drawing/dash";
import { cardOf, keyParts, touchedPanels } from "../job/card";
import type { Job } from "../job/job";
import { handoverReport } from "../job/report";
import { effective, kindNamed } from "../log/fold";
import { mayTakeBack } from "./last-done";

const SHOWN_ENTRIES = 40;

/** @param now ISO 8601, UTC */
export function handoverView(job: Job, now: string) {
  const { state, plan, entries } = job;
  const facts = job.once("facts", () => job.facts(now));
  const counting = new Set(effective(entries).map((e) => e.id));
  return {
    report: handoverReport(job, now),
    closed: state.closed,
    card: cardOf(plan, state),
    /** Parts with the keys of the card. */
    keys: keyParts(plan.fitted),
    dash: drawnDash(plan.documents.car, plan.documents.variant),
    /** Panels that were off at some time of the job. */
    touched: touchedPanels(plan, state),
    history: entries
      .slice(-SHOWN_ENTRIES)
      .reverse()
      .map((e) => ({
        id: e.id,
        at: e.at,
        by: e.by,
        words: kindNamed(e.kind).words(e.data, facts),
        undone: e.kind !== "undo" && !counting.has(e.id),
        canUndo: mayTakeBack(e),
      })),
  };
}
