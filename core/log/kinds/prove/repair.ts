import { type Kind, unknown } from "../../kind";
import type { CodesSlice } from "./codes";
import type { ResultSlice } from "./result";

interface RepairData {
  fault: string;
  title: string;
  remedy: string;
  /** Tests that failed when it was repaired; empty in entries from before they were written. */
  tests: string[];
}

interface RepairSlice {
  repairs: (RepairData & { at: string; by: string })[];
}

/** After a repair the car is another one: what failed must be tried again, what passed may have been disturbed. */
export const repair: Kind<
  "prove.repair",
  RepairData,
  RepairSlice,
  { fault: string },
  RepairSlice & ResultSlice & CodesSlice
> = {
  kind: "prove.repair",
  empty: () => ({ repairs: [] }),
  fold(state, { data, at, by }) {
    state.repairs.push({ ...data, at, by });
    state.results = new Map();
    state.checks = new Map();
    state.codesAfter = null;
  },
  check: (job, { fault }) => (job.fault(fault) ? null : unknown("fault", fault)),
  write(job, { fault }) {
    const { title, remedy } = job.fault(fault) ?? { title: fault, remedy: "" };
    return { fault, title, remedy, tests: job.failing().map((t) => t.id) };
  },
  words: ({ title, remedy }) => `Repaired: ${title}. ${remedy}`.trimEnd(),
  upgrade: [(old: Omit<RepairData, "tests">) => ({ ...old, tests: [] })],
};
