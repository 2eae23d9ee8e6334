import { type Kind, refuse } from "../../kind";

export interface CloseSlice {
  closed: { at: string; by: string; openPoints: string[] } | null;
}

export const close: Kind<"handover.close", { openPoints: string[] }, CloseSlice, Record<string, never>> = {
  kind: "handover.close",
  empty: () => ({ closed: null }),
  fold(state, { data, at, by }) {
    state.closed = { at, by, openPoints: data.openPoints };
  },
  check(job) {
    const failing = job.failing().find((t) => t.law);
    if (job.programmingPlug()?.state.inSocket)
      return refuse(
        "programming plug",
        "The programming plug is still in the diagnostic socket.",
        "Let it finish, take it out, then close the job. It never stays in a car.",
      );
    return failing
      ? refuse(failing.name, `${failing.name} fails and the law asks for it.`, "Repair it before the car leaves.")
      : null;
  },
  write: (job) => ({ openPoints: job.openPoints() }),
  asked: () => ({}),
  words: ({ openPoints }) =>
    openPoints.length === 0 ? "Job closed, nothing open" : `Job closed with open points: ${openPoints.join(" ")}`,
  upgrade: [],
};
