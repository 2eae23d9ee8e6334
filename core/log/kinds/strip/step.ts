import { asAsked, type Kind } from "../../kind";
import type { StripSlice } from "../../strip-journal";

interface StepData {
  step: string;
  direction: "in" | "back";
  /** Hazards that the person confirmed; entries of earlier releases alone have it. */
  confirmed?: string[] | undefined;
}

export const step: Kind<
  "strip.step",
  StepData,
  StripSlice<"stepEvents">,
  Omit<StepData, "confirmed">,
  StripSlice<"stepEvents" | "counts">
> = {
  kind: "strip.step",
  empty: () => ({ strip: { stepEvents: [] } }),
  /** The same step twice in the same direction is a double tap: it was done once. */
  fold({ strip }, { data, at, by, entry }) {
    const last = strip.stepEvents.findLast((e) => e.step === data.step);
    if (last?.direction === data.direction || (!last && data.direction === "back")) return;
    strip.stepEvents.push({ step: data.step, direction: data.direction, at, by, entry });
    // Off and on again: what was counted on the way back belongs to the time before.
    if (last && data.direction === "in")
      for (const [key, count] of [...strip.counts])
        if (key.startsWith(`${data.step}/`) && count.in !== undefined) strip.counts.delete(key);
  },
  check: (job, { step, direction }) => job.stepRefusal(step, direction),
  write: asAsked,
  says: ({ step, direction }) => ({ [step]: direction }),
  words: ({ step, direction, confirmed = [] }, job) =>
    `${job.step(step, direction) ?? "A step that is no longer in the plan"}: done${confirmed.length > 0 ? ", hazard confirmed" : ""}`,
  upgrade: [],
};
