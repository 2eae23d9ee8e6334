/** The sequences of a job: what must be seen one after the other, what was seen, and where one breaks. */
import type { JobState } from "../log/entry";
import { lowerFirst } from "../model/labels";
import { oncePer } from "../model/once";
import { type SequenceOutcome, sequenceOutcome } from "../prove/sequence-outcome";
import { SIGHTS } from "../prove/sequence-sights";
import { type Sequence, sequences } from "../prove/sequences";
import type { JobPlan } from "./plan";

export const sequencesOf = oncePer((plan: JobPlan): Sequence[] => sequences(plan.fitted, plan.settings, plan.tests));

export function outcomeOf({ seen }: Pick<JobState, "seen">, sequence: Sequence): SequenceOutcome {
  return sequenceOutcome(sequence, seen.get(sequence.id) ?? new Map());
}

/** Where sequences break, for the hand-over. */
export function brokenSequences(plan: JobPlan, state: JobState): string[] {
  if (state.seen.size === 0) return [];
  return sequencesOf(plan).flatMap((s) => {
    const outcome = outcomeOf(state, s);
    const step = s.steps.find((p) => "at" in outcome && p.id === outcome.at);
    return outcome.kind === "breaks" && step
      ? [`${s.name} breaks at “${lowerFirst(step.say)}”: ${SIGHTS[outcome.seen]}.`]
      : [];
  });
}

/** Sequences that were gone through and held, for the certificate. */
export function heldSequences(plan: JobPlan, state: JobState): string[] {
  if (state.seen.size === 0) return [];
  return sequencesOf(plan)
    .filter((s) => outcomeOf(state, s).kind === "right")
    .map((s) => `${s.name}: every step as it must be.`);
}
