import { asAsked, type Kind } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const split: Kind<"strip.split", { step: string; parts: string[] }, StripSlice<"splits">> = {
  kind: "strip.split",
  empty: () => ({ strip: { splits: new Map() } }),
  fold({ strip }, { data }) {
    strip.splits.set(data.step, data.parts);
  },
  check: (job, data) => job.editRefusal({ kind: "strip.split", data }),
  write: asAsked,
  words: ({ step, parts }, job) => `${job.step(step) ?? "A step"}: split into ${parts.join(", ")}`,
  upgrade: [],
};
