import { asAsked, type Kind } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const skip: Kind<"strip.skip", { step: string; reason: string }, StripSlice<"skipped">> = {
  kind: "strip.skip",
  empty: () => ({ strip: { skipped: new Map() } }),
  fold({ strip }, { data }) {
    strip.skipped.set(data.step, data.reason);
  },
  check: (job, data) => job.editRefusal({ kind: "strip.skip", data }),
  write: asAsked,
  words: ({ step, reason }, job) => `${job.step(step) ?? "A step"}: left out, ${reason}`,
  upgrade: [],
};
