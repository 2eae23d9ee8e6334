import { BEGIN, SIGHTS, type Sight } from "../../../prove/sequence-sights";
import { asAsked, type Kind, unknown } from "../../kind";

interface StepData {
  sequence: string;
  step: string;
  seen: Sight;
}

interface StepSlice {
  /** By sequence, what was seen at its steps this time. */
  seen: Map<string, ReadonlyMap<string, Sight>>;
}

/** What was seen at a step of a sequence. Its first step begins it anew. */
export const step: Kind<"prove.step", StepData, StepSlice> = {
  kind: "prove.step",
  empty: () => ({ seen: new Map() }),
  fold(state, { data }) {
    const before = data.step === BEGIN ? undefined : state.seen.get(data.sequence);
    state.seen.set(data.sequence, new Map(before).set(data.step, data.seen));
  },
  check: (job, data) =>
    job.sequenceStep(data.sequence, data.step) === null ? unknown("step of a sequence", data.step) : null,
  write: asAsked,
  words: ({ sequence, step, seen }, job) =>
    `${job.sequenceStep(sequence, step) ?? "A sequence that is no longer in the plan"}: ${SIGHTS[seen]}`,
  upgrade: [],
};
