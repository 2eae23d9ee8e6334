import { asAsked, type Kind, refuse } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const gate: Kind<"strip.gate", { reason: string }, StripSlice<"gate">> = {
  kind: "strip.gate",
  empty: () => ({ strip: { gate: null } }),
  fold({ strip }, { data, at, by, entry }) {
    strip.gate = { ...data, at, by, entry };
  },
  check(job) {
    const gate = job.gate();
    if (gate === "open") return null;
    const over = gate === "passedOver";
    const problem = over ? "It was passed over already." : "Everything was tried; there is nothing to pass over.";
    return refuse("bench test", problem, "Load the page again.");
  },
  write: asAsked,
  words: ({ reason }) => `Bench test passed over: ${reason}`,
  upgrade: [],
};
