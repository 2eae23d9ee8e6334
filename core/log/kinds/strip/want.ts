import { asAsked, type Kind } from "../../kind";
import type { StripSlice } from "../../strip-journal";

export const want: Kind<"strip.want", { step: string; wanted: boolean }, StripSlice<"wanted">> = {
  kind: "strip.want",
  empty: () => ({ strip: { wanted: new Set() } }),
  fold({ strip }, { data }) {
    if (data.wanted) strip.wanted.add(data.step);
    else strip.wanted.delete(data.step);
  },
  check: (job, data) => job.editRefusal({ kind: "strip.want", data }),
  write: asAsked,
  words: ({ step, wanted }, job) => `${job.step(step) ?? "A step"}: ${wanted ? "to come off, too" : "stays on"}`,
  upgrade: [],
};
