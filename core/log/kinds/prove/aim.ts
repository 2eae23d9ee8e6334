import type { Law } from "../../../camera/lens";
import type { Pose } from "../../../camera/pose";
import { asAsked, type Kind, type Noted, noted, unknown } from "../../kind";

/** How a camera is to look. */
export interface Aim {
  pose: Pose;
  law: Law;
  /** Angle of the lens from the left to the right edge of the picture. */
  acrossDeg: number;
  /** Radial term of the lens, as in core/camera/lens.ts. */
  k1: number;
  /** Width by height of the camera's own picture. */
  shape: number;
}

interface AimData extends Aim {
  camera: string;
}

interface AimSlice {
  /** By camera. */
  aims: Map<string, Noted<Aim>>;
}

/** A camera was placed: where it is to sit and how it is to look. */
export const aim: Kind<"prove.aim", AimData, AimSlice> = {
  kind: "prove.aim",
  empty: () => ({ aims: new Map() }),
  fold(state, entry) {
    const { camera, ...aimed } = entry.data;
    state.aims.set(camera, noted(aimed, entry));
  },
  check: (job, { camera }) => (job.camera(camera) === null ? unknown("camera", camera) : null),
  write: asAsked,
  words: ({ camera, pose: { zM, pitchDeg, yawDeg } }, job) =>
    `${job.camera(camera) ?? "A camera that is no longer in the plan"} placed: ${Math.round(zM * 100)} cm over the ground, ${pitchDeg.toFixed(1)}° down${yawDeg === 0 ? "" : `, ${Math.abs(yawDeg).toFixed(1)}° to the side`}`,
  upgrade: [],
};
