import { type Kind, refuse } from "../../kind";

interface AcceptData {
  point: string;
  /** What was open, as it stood there. */
  text: string;
  reason: string;
}

export interface AcceptSlice {
  /** Open points with which the car may go, by identifier; the text tells whether it is still the same. */
  accepted: Map<string, { text: string; reason: string; by: string; entry: string }>;
}

/** The lead says why the car may go with something open. */
export const accept: Kind<"handover.accept", AcceptData, AcceptSlice, { point: string; reason: string }> = {
  kind: "handover.accept",
  empty: () => ({ accepted: new Map() }),
  fold(state, { data: { point, text, reason }, by, entry }) {
    state.accepted.set(point, { text, reason, by, entry });
  },
  check(job, { point }) {
    const found = job.openPoint(point);
    if (!found) return refuse("open points", "This is not open any more.", "Load the page again.");
    return found.level === "blocks"
      ? refuse(found.text, "No reason lets a car go like this.", "Put it right, or close the job as unfinished.")
      : null;
  },
  write: (job, { point, reason }) => ({ point, reason, text: job.openPoint(point)?.text ?? "" }),
  words: ({ text, reason }) => `May stay open: ${text} Because: ${reason}`,
  upgrade: [],
};
