import { asAsked, type Kind } from "../../kind";
import type { StripSlice } from "../../strip-journal";

interface CountData {
  step: string;
  /** Group of fasteners of the step. */
  group: number;
  direction: "in" | "out";
  count: number;
}

export const count: Kind<
  "strip.count",
  CountData,
  StripSlice<"counts">,
  CountData,
  StripSlice<"counts" | "stepEvents">
> = {
  kind: "strip.count",
  empty: () => ({ strip: { counts: new Map() } }),
  fold({ strip }, { data }) {
    const key = `${data.step}/${data.group}`;
    // Counted out before the step is ticked off once more: the counts of the time before are over.
    const again =
      data.direction === "out" && strip.stepEvents.findLast((e) => e.step === data.step)?.direction === "back";
    strip.counts.set(key, { ...(again ? {} : strip.counts.get(key)), [data.direction]: data.count });
  },
  check: (job, data) => job.editRefusal({ kind: "strip.count", data }),
  write: asAsked,
  says: ({ step, group, direction, count }) => ({ [`${step}/${group}/${direction}`]: count }),
  words: ({ step, direction, count }, job) =>
    `Fasteners of ${job.step(step) ?? "a step"} counted: ${count} ${direction}`,
  upgrade: [],
};
