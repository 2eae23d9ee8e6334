import { asAsked, type Kind, refuse } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const gate: Kind<"strip.gate", { reason: string }, StripSlice<"gate">> = {
  kind: "strip.gate",
  empty: () => ({ strip: { gate: null } }),
  fold({ strip }, { data, at, by, entry }) {
    strip.gate = { ...data, at, by, entry };
  },
  check: (job) =>
    job.gate() === "open"
      ? null
      : refuse(
          "bench test",
          job.gate() === "passed" ? "All tests passed; there is nothing to pass over." : "It was passed over already.",
          "Load the page again.",
        ),
  write: asAsked,
  words: ({ reason }) => `Bench test passed over: ${reason}`,
  upgrade: [],
};
