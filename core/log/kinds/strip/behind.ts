import { asAsked, type Kind, unknown } from "../../kind";
import type { StripSlice } from "../../strip-journal";

/** Somebody has looked and felt behind the place before it is drilled or cut: nothing is there. */
export const behind: Kind<"strip.behind", { step: string }, StripSlice<"behind">> = {
  kind: "strip.behind",
  empty: () => ({ strip: { behind: new Map() } }),
  fold({ strip }, { data, at, by, entry }) {
    strip.behind.set(data.step, { at, by, entry });
  },
  check: (job, { step }) => (job.lasting(step) === null ? unknown("step that cannot be undone", step) : null),
  write: asAsked,
  words: ({ step }, job) =>
    `Looked and felt behind, nothing is there: ${job.lasting(step) ?? "a step that is no longer in the plan"}`,
  upgrade: [],
};
