import { asAsked, type Kind, refuse } from "../../kind";
import { type DocumentPin, notInLibrary } from "../fit/kit";

interface VariantData {
  variant: DocumentPin;
  /** Answers to the questions that led to it. */
  answers: Record<string, string | null>;
}

interface VariantSlice {
  /** Radio variant found on this job; null while the one with which it was opened counts. */
  variant: DocumentPin | null;
  variantAnswers: Record<string, string | null>;
}

export const variant: Kind<"intake.variant", VariantData, VariantSlice> = {
  kind: "intake.variant",
  empty: () => ({ variant: null, variantAnswers: {} }),
  fold(state, { data }) {
    state.variant = data.variant;
    state.variantAnswers = data.answers;
  },
  check(job, { variant }) {
    if (job.document("variant", variant) === null) return notInLibrary("variant", variant);
    const clash = job.clash("variant", variant, {});
    return clash && refuse("radio variant", clash.problem, clash.remedy);
  },
  write: asAsked,
  words: ({ variant }, job) => `Radio: ${job.document("variant", variant) ?? variant.slug}`,
  upgrade: [],
};
