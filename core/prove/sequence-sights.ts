/** What a person can see or hear at a step. */
export const SIGHTS = {
  asSaid: "as said",
  dark: "dark screen",
  blue: "blue or black picture",
  other: "another picture",
  frozen: "frozen or torn picture",
  silent: "not heard",
} as const;

export type Sight = keyof typeof SIGHTS;

export const SIGHT_IDS = Object.keys(SIGHTS) as [Sight, ...Sight[]];

/** The first step of every sequence; seeing it begins the sequence anew. */
export const BEGIN = "begin";
