import { CORNER_NAMES, type Corner, type Heard } from "../../../prove/corners";
import type { JobFacts } from "../../facts";
import { asAsked, type Kind, type Noted, noted, type Refusal, refuse } from "../../kind";

interface WalkData {
  /** Where balance and fader stood. */
  corner: Corner;
  plays: Heard;
}

export interface WalkSlice {
  /** What was heard since contacts were last moved, by the corner that was set. */
  walk: Map<Corner, Noted<Heard>>;
}

/** Refuses what would lead to contacts that no document names. */
export function unknownContacts(job: JobFacts): Refusal | null {
  if (job.speakerPlug() !== null) return null;
  return refuse(
    "loudspeakers",
    "The documents of this job do not say which contacts carry the loudspeakers.",
    "Enter them in the plug of the radio or amplifier.",
  );
}

/** Balance and fader at one corner, and the loudspeaker that plays. */
export const walk: Kind<"prove.walk", WalkData, WalkSlice> = {
  kind: "prove.walk",
  empty: () => ({ walk: new Map() }),
  fold(state, entry) {
    state.walk.set(entry.data.corner, noted(entry.data.plays, entry));
  },
  check: unknownContacts,
  write: asAsked,
  words: ({ corner, plays }) =>
    `Balance and fader at ${CORNER_NAMES[corner]}: ${
      plays === "none" ? "nothing plays" : plays === "several" ? "several play" : `${CORNER_NAMES[plays]} plays`
    }`,
  upgrade: [],
};
