import type { OpenPointFact } from "../../facts";
import { type Kind, refuse } from "../../kind";

interface CloseData {
  /** How the car left: ready, or unfinished and not to be used as if it were. */
  as: "ready" | "unfinished";
  openPoints: string[];
  /** What of them the customer is told. */
  told: string[];
}

export interface CloseSlice {
  closed: ({ at: string; by: string } & CloseData) | null;
}

export const close: Kind<"handover.close", CloseData, CloseSlice, { as?: CloseData["as"] | undefined }> = {
  kind: "handover.close",
  empty: () => ({ closed: null }),
  fold(state, { data, at, by }) {
    state.closed = { at, by, ...data };
  },
  check: (job) =>
    job.programmingPlug()?.state.inSocket
      ? refuse(
          "programming plug",
          "The programming plug is still in the diagnostic socket.",
          "Let it finish, take it out, then close the job. It never stays in a car.",
        )
      : null,
  write(job, { as = "ready" }) {
    const points = job.openPoints();
    const text = (p: OpenPointFact) => p.text;
    return { as, openPoints: points.map(text), told: points.filter((p) => p.customer).map(text) };
  },
  words({ as, openPoints }) {
    const points = openPoints.length === 0 ? "nothing open" : `open: ${openPoints.join(" ")}`;
    return as === "ready" ? `Job closed, ${points}` : `Job closed as unfinished, ${points}`;
  },
  upgrade: [(old: { openPoints: string[] }): CloseData => ({ ...old, as: "ready", told: old.openPoints })],
};
