import type { Sighting } from "../../../camera/sighting";
import { asAsked, type Kind, type Noted, noted, unknown } from "../../kind";
import type { TurnedData } from "./turned";

export interface SightData {
  camera: string;
  /** Marks on the floor and the corners of the screen, as tapped on a photo. */
  sighting: Sighting;
}

export interface SightSlice {
  /** By camera: the last sighting since it was turned, and how it was turned so far. */
  sights: Map<string, { sight: Noted<SightData> | null; turned: Noted<TurnedData>[] }>;
}

/** A camera was measured by marks on the floor. */
export const sight: Kind<"prove.sight", SightData, SightSlice> = {
  kind: "prove.sight",
  empty: () => ({ sights: new Map() }),
  fold(state, entry) {
    const { camera } = entry.data;
    state.sights.set(camera, { turned: state.sights.get(camera)?.turned ?? [], sight: noted(entry.data, entry) });
  },
  check: (job, asked) =>
    job.camera(asked.camera) === null ? unknown("camera", asked.camera) : job.sightRefusal(asked),
  write: asAsked,
  words: ({ camera, sighting }, job) =>
    `${job.camera(camera) ?? "A camera that is no longer in the plan"} measured by ${sighting.marks.length} marks on the floor`,
  upgrade: [],
};
