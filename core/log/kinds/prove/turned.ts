import { type Axis, type Turn, turnWords } from "../../../camera/turn";
import { type Kind, noted, refuse, unknown } from "../../kind";
import type { LinesSlice } from "./lines";
import type { SightSlice } from "./sight";

export interface TurnedData {
  camera: string;
  looks: "back" | "ahead";
  /** By how much, in degrees. */
  turns: { axis: Axis; byDeg: number }[];
}

/** A camera was turned as the measurement had said; what was measured before says nothing any more. */
export const turned: Kind<"prove.turned", TurnedData, object, { camera: string }, SightSlice & LinesSlice> = {
  kind: "prove.turned",
  empty: () => ({}),
  fold(state, entry) {
    const { camera } = entry.data;
    const before = state.sights.get(camera)?.turned ?? [];
    state.sights.set(camera, { sight: null, turned: [...before, noted(entry.data, entry)] });
    state.lines.delete(camera);
  },
  check(job, { camera }) {
    const name = job.camera(camera);
    if (name === null) return unknown("camera", camera);
    return needed(job.cameraTurns(camera)).length > 0
      ? null
      : refuse(name, "Nothing was measured that says how it is to be turned.", "Measure it again by the marks.");
  },
  write: (job, { camera }) => ({
    camera,
    looks: job.cameraLooks(camera) ?? "back",
    turns: needed(job.cameraTurns(camera)).map(({ axis, byDeg }) => ({ axis, byDeg })),
  }),
  words: ({ camera, looks, turns }, job) =>
    `${job.camera(camera) ?? "A camera that is no longer in the plan"} turned ${turns.map((t) => turnWords(t, looks)).join(", ")}`,
  upgrade: [],
};

function needed(turns: readonly Turn[]): Turn[] {
  return turns.filter((t) => t.say === "turn");
}
