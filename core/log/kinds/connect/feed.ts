import { asAsked, type Kind, refuse, unknown } from "../../kind";

export interface FeedSlice {
  /** Fuse position that feeds the kit. */
  feed: string | null;
  /** The new branch of the tap was lit with the original fuse out; null while not tested. */
  tapLit: boolean | null;
}

/** A circuit on which somebody's life depends is never taken, and neither is one that the tester has ruled out. */
export const feed: Kind<"connect.feed", { position: string | null }, FeedSlice> = {
  kind: "connect.feed",
  empty: () => ({ feed: null, tapLit: null }),
  fold(state, { data }) {
    state.feed = data.position;
    state.tapLit = null;
  },
  check(job, { position: id }) {
    if (id === null) return null;
    const position = job.position(id);
    if (!position) return unknown("fuse position", id);
    if (position.forbidden)
      return refuse(position.name, `${position.name} is never used: ${position.forbidden}.`, "Take another position.");
    const idle = job.noFeedNeeded();
    if (idle) return refuse("feed", idle, "Choose the fuse panel as the feed in Fit first, where the kit offers it.");
    return position.notYet === null
      ? null
      : refuse(
          position.name,
          `${position.name}: ${position.notYet}`,
          "Test it with the key on, off and the door open first.",
        );
  },
  write: asAsked,
  words: ({ position }, job) =>
    position === null ? "Switched feed given back" : `Switched feed taken: ${job.position(position)?.name ?? position}`,
  upgrade: [],
};
