/** The four corners of a car, where its loudspeakers are. */

/** In the order of the walk: the front first, as balance alone tells it. */
export const CORNERS = ["LF", "RF", "LR", "RR"] as const;
export type Corner = (typeof CORNERS)[number];
export const CORNER_NAMES: Record<Corner, string> = {
  LF: "left front",
  RF: "right front",
  LR: "left rear",
  RR: "right rear",
};
/** What plays while one corner is set. */
export type Heard = Corner | "none" | "several";
