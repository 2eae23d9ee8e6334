/** Whether the customer's signature is for the kit and the options that count now. */
import { widerWays } from "../fit/try-first";
import type { JobState } from "../log/entry";
import { oncePer } from "../model/once";
import type { JobPlan } from "./plan";

/** `other`: something else was signed than what is planned now. */
export type Signature = "none" | "other" | "counts";

/**
 * What was signed counts as long as kit and options are the same. A way that stood in the signed terms as the one to be
 * taken where the first one fails counts as well.
 */
export function signatureOf(plan: JobPlan, state: JobState): Signature {
  return signatureIn(plan)(state);
}

const signatureIn = oncePer((plan: JobPlan) =>
  oncePer((state: JobState): Signature => {
    if (!state.signed) return "none";
    const { kit, choices } = state.signed.value;
    const own = plan.documents.kit;
    if (kit.slug !== own.id || kit.version !== own.version) return "other";
    const otherwise = Object.keys(choices).filter((c) => plan.chosen[c] !== choices[c]);
    if (otherwise.length === 0) return "counts";
    const agreed = widerWays(plan.documents, state, choices);
    return otherwise.every((c) => agreed.some((w) => w.choice === c && w.option === plan.chosen[c]))
      ? "counts"
      : "other";
  }),
);

/** What to say of an offer without a signature that counts; null when it has one. */
export function unsignedWords(signature: Signature): string | null {
  switch (signature) {
    case "none":
      return "The customer has not signed the offer.";
    case "other":
      return "The customer has signed another offer than the one that counts now.";
    case "counts":
      return null;
  }
}
