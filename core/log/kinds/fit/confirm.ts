import { type Kind, refuse } from "../../kind";
import type { GiveUpSlice } from "../configure/give-up";
import { choiceRefusal, choiceWords, type KitSlice } from "./kit";

interface ConfirmData {
  choices: Record<string, string>;
  /** Options as they counted before. */
  before: Record<string, string>;
}

export const confirm: Kind<
  "fit.confirm",
  ConfirmData,
  object,
  { choices: Record<string, string> },
  Pick<KitSlice, "choices"> & GiveUpSlice
> = {
  kind: "fit.confirm",
  empty: () => ({}),
  fold(state, { data }) {
    // With another option other functions may be in each other's way.
    const { choices } = state;
    if (choices && Object.keys(data.choices).some((c) => data.choices[c] !== choices[c])) state.givenUp = [];
    state.choices = data.choices;
  },
  check: (job, { choices }) =>
    job.kit()
      ? choiceRefusal(job, choices)
      : refuse("kit", "No kit is chosen on this job yet.", "Choose the kit in Fit first."),
  write: (job, { choices }) => ({ choices, before: job.chosen() }),
  words: ({ choices }, job) => `Kit and choices confirmed${joined(choiceWords(job, choices))}`,
  upgrade: [(old: Omit<ConfirmData, "before">) => ({ ...old, before: {} })],
};

function joined(words: string): string {
  return words === "" ? "" : `: ${words}`;
}
