import { asAsked, type Kind, refuse } from "../../kind";
import type { FeedSlice } from "./feed";

/** The tester on the new branch of the tap, with the original fuse out. */
export const tap: Kind<"connect.tap", { lit: boolean }, object, { lit: boolean }, Pick<FeedSlice, "tapLit">> = {
  kind: "connect.tap",
  empty: () => ({}),
  fold(state, { data }) {
    state.tapLit = data.lit;
  },
  check: (job) =>
    job.position(job.state.feed ?? "")?.used
      ? null
      : refuse("fuse tap", "There is no tap on this job:", "take a used fuse position first."),
  write: asAsked,
  words: ({ lit }) => `New branch of the tap, original fuse out: ${lit ? "lit" : "dark"}`,
  upgrade: [],
};
