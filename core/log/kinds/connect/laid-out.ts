import { asAsked, type Kind, refuse } from "../../kind";

export interface LaidOutSlice {
  /** The kit was laid out on the bench: complete, long enough, labelled. */
  laidOut: boolean;
}

/** The kit lies on the bench and nothing is missing. */
export const laidOut: Kind<"connect.laidOut", Record<string, never>, LaidOutSlice> = {
  kind: "connect.laidOut",
  empty: () => ({ laidOut: false }),
  fold(state) {
    state.laidOut = true;
  },
  check: (job) => (job.kit() === null ? refuse("kit", "No kit is chosen yet.", "Choose it in Fit first.") : null),
  write: asAsked,
  words: () => "Kit laid out on the bench: complete, long enough, labelled",
  upgrade: [],
};
