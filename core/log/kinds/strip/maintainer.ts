import { asAsked, type Kind, refuse } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const maintainer: Kind<
  "strip.maintainer",
  { connected: boolean },
  object,
  { connected: boolean },
  StripSlice<"stood" | "stepEvents">
> = {
  kind: "strip.maintainer",
  empty: () => ({}),
  fold({ strip }, { data, at, by, entry }) {
    strip.stood.push({ sets: { maintainer: data.connected }, after: strip.stepEvents.length, at, by, entry });
  },
  check: (job, { connected }) =>
    job.stand().maintainer === connected
      ? refuse(
          "maintainer",
          `The maintainer is noted as ${connected ? "connected" : "off"} already.`,
          "Load the page again.",
        )
      : null,
  write: asAsked,
  words: ({ connected }) => `Maintainer ${connected ? "connected" : "off"}`,
  upgrade: [],
};
