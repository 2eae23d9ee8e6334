import { CORNER_NAMES } from "../../../prove/corners";
import type { ContactMove } from "../../../prove/speaker-walk";
import { type Kind, refuse } from "../../kind";
import type { PolaritySlice } from "./polarity";
import type { WalkSlice } from "./walk";

interface MovedData {
  /** The plug as people call it. */
  plug: string;
  moves: ContactMove[];
}

interface MovedSlice {
  /** Contacts of loudspeakers that were moved, the last time last. */
  contactMoves: (MovedData & { at: string; by: string })[];
}

/** Contacts were moved as the walk had shown; what was heard before says nothing any more. */
export const moved: Kind<"prove.moved", MovedData, MovedSlice, object, MovedSlice & WalkSlice & PolaritySlice> = {
  kind: "prove.moved",
  empty: () => ({ contactMoves: [] }),
  fold(state, { data, at, by }) {
    state.contactMoves.push({ ...data, at, by });
    state.walk = new Map();
    state.ear = new Map();
    state.microphone = new Map();
  },
  check: (job) =>
    job.walk()?.kind === "exchanged"
      ? null
      : refuse("loudspeakers", "The walk shows no contacts to be moved.", "Walk round with balance and fader again."),
  write(job) {
    const outcome = job.walk();
    return { plug: job.speakerPlug() ?? "", moves: outcome?.kind === "exchanged" ? outcome.moves : [] };
  },
  words: ({ plug, moves }) =>
    `Contacts moved in ${plug}: ${moves.map((m) => `${CORNER_NAMES[m.corner]} ${m.pole === "+" ? "plus" : "minus"} from ${m.from} to ${m.to}`).join(", ")}`,
  upgrade: [],
};
