/**
 * A camera over the ground and what it sees. The ground's axes have their origin below the middle of the bumper that the
 * camera looks over: x to the right as the camera looks, y away from the car, z up, in metres. At a rear camera x is
 * therefore to the left of the driver.
 */
import { type Lens, rayAt, throughLens, type Vector } from "./lens";

export interface Pose {
  xM: number;
  /** Negative: set back from the edge of the bumper. */
  yM: number;
  zM: number;
  /** Turned to its right. */
  yawDeg: number;
  /** Pointed down. */
  pitchDeg: number;
  /** Turned clockwise, as somebody behind it sees it. */
  rollDeg: number;
}

/** How the picture of the camera comes to the glass. A place on the glass is u to the right and v down, 0 to 1. */
export interface Camera {
  pose: Pose;
  lens: Lens;
  /** Width by height of the camera's own picture; it fills the glass, stretched when the glass has another shape. */
  shape: number;
  /** As in a driving mirror. */
  mirrored: boolean;
}

export interface OnGlass {
  u: number;
  v: number;
}

/** A point in space, in metres. */
export interface Spot {
  x: number;
  y: number;
  z: number;
}

const DEG = Math.PI / 180;

/** The camera's axes right, down and forward in those of the ground: the rows of the rotation from ground to camera. */
export function axesOf({ yawDeg, pitchDeg, rollDeg }: Pose): readonly [Vector, Vector, Vector] {
  const [sy, cy] = [Math.sin(yawDeg * DEG), Math.cos(yawDeg * DEG)];
  const [sp, cp] = [Math.sin(pitchDeg * DEG), Math.cos(pitchDeg * DEG)];
  const [sr, cr] = [Math.sin(rollDeg * DEG), Math.cos(rollDeg * DEG)];
  const right: Vector = [cy, -sy, 0];
  const down: Vector = [-sy * sp, -cy * sp, -cp];
  return [
    [right[0] * cr + down[0] * sr, right[1] * cr + down[1] * sr, right[2] * cr + down[2] * sr],
    [-right[0] * sr + down[0] * cr, -right[1] * sr + down[1] * cr, -right[2] * sr + down[2] * cr],
    [sy * cp, cy * cp, -sp],
  ];
}

/** The same pose with its pitch between -90° and 90°, and the turns between -180° and 180°. */
export function plainPose(pose: Pose): Pose {
  const [right, down, forward] = axesOf(pose);
  return {
    ...pose,
    yawDeg: Math.atan2(forward[0], forward[1]) / DEG,
    pitchDeg: -Math.asin(Math.max(-1, Math.min(1, forward[2]))) / DEG,
    rollDeg: Math.atan2(-right[2], -down[2]) / DEG,
  };
}

/** Where a point appears on the glass, also beyond its edges; null when the lens cannot see it. */
export function onGlass(camera: Camera, spot: Spot): OnGlass | null {
  return viewOf(camera)(spot);
}

/** `onGlass` for many points of one camera. */
export function viewOf({ pose, lens, shape, mirrored }: Camera): (spot: Spot) => OnGlass | null {
  const [right, down, forward] = axesOf(pose);
  return ({ x, y, z }) => {
    const from: Vector = [x - pose.xM, y - pose.yM, z - pose.zM];
    const seen = throughLens(lens, [dot(right, from), dot(down, from), dot(forward, from)]);
    if (!seen) return null;
    return { u: 0.5 + (mirrored ? -1 : 1) * lens.focal * seen.x, v: 0.5 + lens.focal * shape * seen.y };
  };
}

/** Whether a place is on the glass and not beside it. */
export function within({ u, v }: OnGlass): boolean {
  return u >= 0 && u <= 1 && v >= 0 && v <= 1;
}

/** The point at a height that appears at a place of the glass; null above the horizon or where the lens shows nothing. */
export function atHeight({ pose, lens, shape, mirrored }: Camera, { u, v }: OnGlass, heightM = 0): Spot | null {
  const ray = rayAt(lens, ((u - 0.5) * (mirrored ? -1 : 1)) / lens.focal, (v - 0.5) / (lens.focal * shape));
  if (!ray) return null;
  const [right, down, forward] = axesOf(pose);
  const along = (i: 0 | 1 | 2) => ray[0] * right[i] + ray[1] * down[i] + ray[2] * forward[i];
  const reach = (heightM - pose.zM) / along(2);
  if (!(reach > 0) || !Number.isFinite(reach)) return null;
  return { x: pose.xM + reach * along(0), y: pose.yM + reach * along(1), z: heightM };
}

function dot(a: Vector, b: Vector): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
