import { asAsked, type Kind, unknown } from "../../kind";
import type { SmallPart, StripSlice } from "../../strip-journal";

/** A small part to get. */
export const small: Kind<"strip.small", SmallPart, StripSlice<"small">> = {
  kind: "strip.small",
  empty: () => ({ strip: { small: [] } }),
  fold({ strip }, { data, at, by, entry }) {
    strip.small.push({ ...data, at, by, entry });
  },
  check: (job, { step }) => (step !== null && job.step(step) === null ? unknown("step", step) : null),
  write: asAsked,
  words: ({ what, state, count }) => `${state === "broken" ? "Broken" : "Lost"}: ${count} × ${what}`,
  upgrade: [],
};
