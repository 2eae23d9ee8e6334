import { type Place, TARGETS, type TargetId } from "../../../prove/touch-targets";
import { asAsked, type Kind, unknown } from "../../kind";

interface TouchData {
  /** Test of the touch panel in one picture. */
  test: string;
  target: TargetId;
  /** Where the picture reacts, in shares of it from the upper left; null: nowhere. */
  at: Place | null;
}

export interface TouchSlice {
  /** By the test, where each target reacts. */
  touch: Map<string, ReadonlyMap<TargetId, Place | null>>;
}

/** A target on the screen was touched, and the picture reacted somewhere. */
export const touch: Kind<"prove.touch", TouchData, TouchSlice> = {
  kind: "prove.touch",
  empty: () => ({ touch: new Map() }),
  fold(state, { data: { test, target, at } }) {
    state.touch.set(test, new Map(state.touch.get(test)).set(target, at));
  },
  check: (job, { test }) => (job.touchTest(test) === null ? unknown("test of a touch panel", test) : null),
  write: asAsked,
  words({ test, target, at }, job) {
    const where = at
      ? `reacts at ${Math.round(100 * at.x)} % from the left, ${Math.round(100 * at.y)} % from the top`
      : "nothing reacts";
    return `${job.touchTest(test) ?? "A panel that is no longer in the plan"}, ${TARGETS[target].name} touched: ${where}`;
  },
  upgrade: [],
};
