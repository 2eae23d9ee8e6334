import { asAsked, type Kind, refuse } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const maintainer: Kind<"strip.maintainer", { connected: boolean }, StripSlice<"maintainer">> = {
  kind: "strip.maintainer",
  empty: () => ({ strip: { maintainer: false } }),
  fold({ strip }, { data }) {
    strip.maintainer = data.connected;
  },
  check: (job, { connected }) =>
    job.state.strip.maintainer === connected
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
