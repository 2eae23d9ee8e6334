import { asAsked, type Kind, type Noted, noted, unknown } from "../../kind";
import { missingPhoto } from "../photo";

interface BaselineData {
  test: string;
  result: "pass" | "fail" | "absent";
  note: string;
  photo?: string;
}

const RESULTS = { pass: "works", fail: "does not work", absent: "not present" } as const;

export const baseline: Kind<"intake.baseline", BaselineData, { baseline: Map<string, Noted<BaselineData["result"]>> }> =
  {
    kind: "intake.baseline",
    empty: () => ({ baseline: new Map() }),
    fold(state, entry) {
      const { test, result, note, photo } = entry.data;
      state.baseline.set(test, { ...noted(result, entry, note), ...(photo ? { photo } : {}) });
    },
    check: (job, { test, photo }) =>
      job.baselineTry(test) === null ? unknown("baseline try", test) : missingPhoto(job, photo),
    write: asAsked,
    words: ({ test, result, note }, job) =>
      `Baseline: ${job.baselineTry(test) ?? "a try that is no longer in the plan"} ${RESULTS[result]}${note ? `, “${note}”` : ""}`,
    upgrade: [],
  };
