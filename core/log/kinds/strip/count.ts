import { asAsked, type Kind } from "../../kind";
import type { StripSlice } from "../../strip-journal";

interface CountData {
  step: string;
  /** Group of fasteners of the step. */
  group: number;
  direction: "in" | "out";
  count: number;
}

export const count: Kind<"strip.count", CountData, StripSlice<"counts">> = {
  kind: "strip.count",
  empty: () => ({ strip: { counts: new Map() } }),
  fold({ strip }, { data }) {
    const key = `${data.step}/${data.group}`;
    strip.counts.set(key, { ...strip.counts.get(key), [data.direction]: data.count });
  },
  check: (job, data) => job.editRefusal({ kind: "strip.count", data }),
  write: asAsked,
  words: ({ step, direction, count }, job) =>
    `Fasteners of ${job.step(step) ?? "a step"} counted: ${count} ${direction}`,
  upgrade: [],
};
