/** Whether a job asks for a feed from the fuse panel. */
import { isFeedLink } from "../power/feed-link";
import type { Job } from "./job";

/** Whether the kit with its options asks for a feed from the fuse panel. */
export interface FeedNeed {
  kind: "wanted" | "taken" | "byHand" | "none";
  say: string;
  /** Connection that the feed becomes. */
  link: string | null;
}

export function feedNeed({ plan, state }: Job): FeedNeed {
  const { kit, car } = plan.documents;
  const position = car.fusePanel?.find((p) => p.id === state.feed);
  const link = plan.connections.find(isFeedLink);
  if (link && position)
    return { kind: "taken", say: `${position.id}, ${position.circuit}, is taken. ${link.say}.`, link: link.link };
  if (link)
    return {
      kind: "wanted",
      say: `${link.say}. Until a position is taken, this connection counts as open.`,
      link: link.link,
    };
  // The options ask for it, but the document of the kit names no lead that goes there.
  const asked = kit.reach?.some((r) => r.place === "fuse panel" && plan.applies(r));
  const byHand =
    "The options take the feed at the fuse panel; the document of the kit names no lead for it, so its wire is tapped by hand.";
  if (asked && position) return { kind: "taken", say: `${byHand} ${position.id} is taken.`, link: null };
  if (asked) return { kind: "byHand", say: `${byHand} Find a position.`, link: null };
  return {
    kind: "none",
    say: "No lead of this kit with these options goes to the fuse panel: it takes its power where it is plugged.",
    link: null,
  };
}
