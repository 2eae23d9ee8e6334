import type { Edge } from "../../../camera/guide-lines";
import type { Corners, Point } from "../../../geometry/unit-square";
import { asAsked, type Kind, type Noted, noted, refuse, unknown } from "../../kind";

export interface LinesData {
  camera: string;
  /** Of the screen, on the photo. */
  corners: Corners;
  /** Places along the lines that the module draws. */
  taps: Readonly<Record<Edge, readonly Point[]>>;
  /** How the steering wheel stood, in degrees; positive: turned to the right. */
  steeringWheelDeg: number;
}

export interface LinesSlice {
  /** By camera, the guide lines that were tapped last. */
  lines: Map<string, Noted<LinesData>>;
}

/** The guide lines of a module were tapped on a photo of the screen. */
export const lines: Kind<"prove.lines", LinesData, LinesSlice> = {
  kind: "prove.lines",
  empty: () => ({ lines: new Map() }),
  fold(state, entry) {
    state.lines.set(entry.data.camera, noted(entry.data, entry));
  },
  check(job, { camera }) {
    const name = job.camera(camera);
    if (name === null) return unknown("camera", camera);
    return job.cameraMeasured(camera)
      ? null
      : refuse(name, "Guide lines are judged from the camera as it was measured.", "Measure the camera first.");
  },
  write: asAsked,
  words: ({ camera, steeringWheelDeg }, job) =>
    `${job.camera(camera) ?? "A camera that is no longer in the plan"}: guide lines tapped with the steering wheel at ${Math.round(steeringWheelDeg)}°`,
  upgrade: [],
};
