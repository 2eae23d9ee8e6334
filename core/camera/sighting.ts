/** What is tapped on the photo of a screen, and what is known of the camera before. */
import type { Corners, Point } from "../geometry/unit-square";
import type { Law } from "./lens";
import type { Pose } from "./pose";

/** A mark on the floor: metres to the right as the camera looks, and away from the bumper. */
export interface FloorPlace {
  x: number;
  y: number;
}

export interface TappedMark {
  id: string;
  at: FloorPlace;
  /** On the photo, in pixels. */
  tap: Point;
}

export interface Sighting {
  corners: Corners;
  marks: readonly TappedMark[];
}

/** What is known of the camera beforehand. */
export interface Expected {
  /** Where the search begins. */
  pose: Pose;
  acrossDeg: number;
  /** Null: not known, both laws are tried. */
  law: Law | null;
  shape: number;
  /** Uncertainty of a tap in pixels of the photo. */
  tapPx: number;
  /** Uncertainty of a mark on the floor, in metres. */
  tapeM: number;
}

/** A tap with the enlarged picture is right to about 1.5 pixels, a mark to half a centimetre: our judgement. */
export const TAP_PX = 1.5;

export const TAPE_M = 0.005;

/** Pose and focal length need six; a term of the lens is found from ten on. */
export const MARKS_NEEDED = 6;

export const MARKS_FOR_TERM = 10;
