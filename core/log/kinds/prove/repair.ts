import { type Kind, unknown } from "../../kind";
import type { CodesSlice } from "./codes";
import type { ResultSlice } from "./result";
import type { TouchSlice } from "./touch";

interface RepairData {
  fault: string;
  title: string;
  remedy: string;
  /** Nothing was broken, and nothing was repaired: a state that passes, or is as it should be. */
  normal: boolean;
  /** Tests that failed when it was repaired; empty in entries from before they were written. */
  tests: string[];
  /** Tests that the repair can have disturbed and that are tried again; null in entries from before: all. */
  again: string[] | null;
  /** Looks whose answers it has made stale; null in entries from before: all. */
  looks: string[] | null;
}

interface RepairSlice {
  repairs: (RepairData & { at: string; by: string })[];
}

/** After a repair the car is another one: what failed, and what the repair can have disturbed, is tried again. */
export const repair: Kind<
  "prove.repair",
  RepairData,
  RepairSlice,
  { fault: string },
  RepairSlice & ResultSlice & CodesSlice & TouchSlice
> = {
  kind: "prove.repair",
  empty: () => ({ repairs: [] }),
  fold(state, { data, at, by }) {
    state.repairs.push({ ...data, at, by });
    for (const test of data.again ?? [...state.results.keys()]) {
      state.results.delete(test);
      // Where fingers arrived is measured again with it.
      state.touch.delete(test);
    }
    for (const look of data.looks ?? [...state.checks.keys()]) state.checks.delete(look);
    state.codesAfter = null;
  },
  check: (job, { fault }) => (job.fault(fault) ? null : unknown("fault", fault)),
  write(job, { fault }) {
    const { title, remedy, normal } = job.fault(fault) ?? { title: fault, remedy: "", normal: false };
    const tests = job.failing().map((t) => t.id);
    return {
      ...{ fault, title, remedy, normal, tests },
      again: [...new Set([...tests, ...job.retriedAfter(fault)])],
      looks: job.looksAt(fault),
    };
  },
  words: ({ title, remedy, normal }) => `${normal ? "No fault" : "Repaired"}: ${title}. ${remedy}`.trimEnd(),
  upgrade: [
    (old: Omit<RepairData, "tests" | "again" | "looks" | "normal">) => ({ ...old, tests: [] }),
    (old: Omit<RepairData, "again" | "looks" | "normal">) => ({ ...old, again: null }),
    (old: Omit<RepairData, "looks" | "normal">) => ({ ...old, looks: null }),
    (old: Omit<RepairData, "normal">) => ({ ...old, normal: old.fault.startsWith("normal:") }),
  ],
};
