import { asAsked, type Kind, refuse } from "../kind";

/** Takes another entry out of what counts; undoing an undo brings it back. `effective` in `fold.ts` does it. */
export const undo: Kind<"undo", { entry: string }> = {
  kind: "undo",
  empty: () => ({}),
  fold() {},
  check(job, { entry: id }) {
    const target = job.entries.find((e) => e.id === id);
    if (!target) return refuse("log", "There is no such entry on this job.", "Load the page again.");
    if (target.kind === "handover.close" || target.kind === "handover.reopen")
      return refuse("log", "Closing and reopening are not taken back.", "Close or reopen the job in Hand over.");
    return job.entries.some((e) => e.kind === "undo" && e.data.entry === id)
      ? refuse("log", "This was undone already.", "Load the page again.")
      : null;
  },
  write: asAsked,
  words: () => "An entry taken back",
  upgrade: [],
};
