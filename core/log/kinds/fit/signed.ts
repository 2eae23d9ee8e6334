import { type Kind, type Noted, noted, refuse } from "../../kind";
import type { DocumentPin } from "./kit";

/** The offer as the customer signed it. */
export interface SignedData {
  name: string;
  kit: DocumentPin;
  choices: Record<string, string>;
  price: number;
  /** ISO 4217. Empty in entries from before it was written. */
  currency: string;
  /** The verdict and what the customer gives up. */
  terms: string[];
}

export const signed: Kind<
  "fit.signed",
  SignedData,
  { signed: Noted<SignedData> | null },
  { name: string; kit: DocumentPin; choices: Record<string, string> }
> = {
  kind: "fit.signed",
  empty: () => ({ signed: null }),
  fold(state, entry) {
    state.signed = noted(entry.data, entry);
  },
  check(job, { kit, choices }) {
    const offer = job.offer();
    if (!offer || job.state.choices === null)
      return refuse(
        "offer",
        "Kit and choices are not confirmed yet.",
        "Confirm them first; the signature is for just these.",
      );
    const same =
      offer.kit.slug === kit.slug &&
      offer.kit.version === kit.version &&
      Object.entries(choices).every(([id, option]) => offer.choices[id] === option);
    return same
      ? null
      : refuse(
          "offer",
          "The offer was changed since this page was loaded; what was signed is not what counts now.",
          "Load the page again and show the customer the present offer.",
        );
  },
  write(job, { name }) {
    const { kit, choices, price, currency, terms } = job.offer() as NonNullable<ReturnType<typeof job.offer>>;
    return { name, kit, choices, price, currency, terms };
  },
  words: ({ name, price, currency }, job) =>
    `Offer signed by ${name}: ${job.kit()?.title ?? "the kit"}, ${price.toFixed(2)} ${currency}`.trimEnd(),
  upgrade: [(old: Omit<SignedData, "currency" | "terms">) => ({ ...old, currency: "", terms: [] })],
};
