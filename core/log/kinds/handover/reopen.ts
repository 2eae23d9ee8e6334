import { asAsked, type Kind, refuse } from "../../kind";
import type { CloseSlice } from "./close";

export const reopen: Kind<"handover.reopen", { reason: string }, object, { reason: string }, CloseSlice> = {
  kind: "handover.reopen",
  empty: () => ({}),
  fold(state) {
    state.closed = null;
  },
  check: (job) =>
    job.state.closed ? null : refuse("job", "The job is open.", "Nothing is to be reopened; go on working."),
  write: asAsked,
  words: ({ reason }) => `Job reopened: ${reason}`,
  upgrade: [],
};
