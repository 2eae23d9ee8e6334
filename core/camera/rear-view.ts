/**
 * The rear view that a rule asks for: 49 CFR 571.111, S5.5, S6.2 and S14 (United States; from memory). Seven cylinders
 * behind the car, what the picture shows of each, and how large the far ones are for the driver's eye. It says what
 * follows from what was measured; whether the rule holds for a car is for local law and its inspectors.
 */
import { type Camera, onGlass, type Spot, within } from "./pose";
import type { PoseSigma } from "./sight";

/** Places of the cylinders: metres to the right as the camera looks and behind the bumper. */
export const OBJECTS = {
  A: { x: 1.52, y: 6.1 },
  B: { x: 0, y: 6.1 },
  C: { x: -1.52, y: 6.1 },
  D: { x: 1.52, y: 3.05 },
  E: { x: -1.52, y: 3.05 },
  F: { x: 1.52, y: 0.3 },
  G: { x: -1.52, y: 0.3 },
} as const satisfies Record<string, { x: number; y: number }>;
export type ObjectId = keyof typeof OBJECTS;
export const OBJECT_IDS = Object.keys(OBJECTS) as ObjectId[];

export const OBJECT_HEIGHT_M = 0.8;
export const OBJECT_WIDTH_M = 0.3;
const STRIP_M = 0.15;
const FAR: readonly ObjectId[] = ["A", "B", "C"];
/** Of these a strip is enough. */
export const NEAR: readonly ObjectId[] = ["F", "G"];
const MEAN_ARCMIN = 5;
const LEAST_ARCMIN = 3;

/** The bumper that can hide what is close behind it, and the glass before the driver. */
export interface Surroundings {
  widthM: number | null;
  bumperHeightM: number | null;
  glassWidthM: number | null;
  eyeToGlassM: number | null;
}

export type Verdict = "meets" | "doesNot" | "notShown";

export interface ObjectSeen {
  id: ObjectId;
  /** Share of the side that faces the camera. */
  seen: number;
  /** Widest strip of its circumference that is seen from the ground to the top, in metres. */
  stripM: number;
  /** Width for the driver's eye in minutes of arc; null: the glass or its distance is not known. */
  arcmin: number | null;
  verdict: Verdict;
}

export interface RearView {
  objects: ObjectSeen[];
  field: Verdict;
  /** Mean of A, B and C in minutes of arc. */
  meanArcmin: number | null;
  size: Verdict;
  /** Figures that are not known and would be needed, in words. */
  missing: string[];
}

/** Steps of height and of angle at which a cylinder is looked at. */
const HEIGHTS = Array.from({ length: 9 }, (_, i) => (i * OBJECT_HEIGHT_M) / 8);
const STEPS = 72;

/** What the picture shows of one cylinder. @param bumperM height of the bumper's edge that hides what lies behind it */
export function seenOf(
  camera: Camera,
  id: ObjectId,
  { widthM, bumperM }: { widthM: number | null; bumperM: number },
): { seen: number; stripM: number; acrossShare: number } {
  const middle = OBJECTS[id];
  const { xM, yM, zM } = camera.pose;
  let [facing, seen, strip, widest] = [0, 0, 0, 0];
  let across: [number, number] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  // Once round and half again, so that a strip over the seam is found whole.
  for (let i = 0; i < 1.5 * STEPS; i++) {
    const angle = (2 * Math.PI * i) / STEPS;
    const [nx, ny] = [Math.cos(angle), Math.sin(angle)];
    const [x, y] = [middle.x + (OBJECT_WIDTH_M / 2) * nx, middle.y + (OBJECT_WIDTH_M / 2) * ny];
    const faces = nx * (xM - x) + ny * (yM - y) >= 0;
    let whole = faces;
    if (faces)
      for (const z of HEIGHTS) {
        const visible = shows({ x, y, z });
        whole &&= visible;
        if (i >= STEPS) continue;
        facing++;
        seen += visible ? 1 : 0;
        if (z !== HEIGHTS[4]) continue;
        const place = onGlass(camera, { x, y, z });
        if (place) across = [Math.min(across[0], place.u), Math.max(across[1], place.u)];
      }
    strip = whole ? strip + (Math.PI * OBJECT_WIDTH_M) / STEPS : 0;
    widest = Math.max(widest, strip);
  }
  return { seen: seen / facing, stripM: widest, acrossShare: Math.max(0, across[1] - across[0]) };

  function shows(spot: Spot): boolean {
    const place = onGlass(camera, spot);
    if (!place || !within(place)) return false;
    if (yM >= 0) return true;
    // Where the line of sight passes over the edge of the bumper.
    const share = -yM / (spot.y - yM);
    const overX = xM + share * (spot.x - xM);
    if (widthM !== null && Math.abs(overX) > widthM / 2) return true;
    return zM + share * (spot.z - zM) >= bumperM;
  }
}

/**
 * Judges the field and the size. Each is *meets* or *does not* only if it stays so within twice the uncertainty of every
 * figure of the pose, and for any height of a bumper that was not measured.
 */
export function rearView(camera: Camera, sigma: PoseSigma | null, around: Surroundings): RearView {
  const { widthM, bumperHeightM, glassWidthM, eyeToGlassM } = around;
  const bumpers = bumperHeightM === null ? [0, Math.max(0, Math.min(camera.pose.zM - 0.05, 1))] : [bumperHeightM];
  const cameras = [camera, ...(sigma ? shaken(camera, sigma) : [])];
  const arcminOf = (share: number) =>
    glassWidthM === null || eyeToGlassM === null
      ? null
      : (Math.asin(Math.min(1, (share * glassWidthM) / eyeToGlassM)) * 60 * 180) / Math.PI;
  const looks = cameras.flatMap((c) =>
    bumpers.map((bumperM) => new Map(OBJECT_IDS.map((id) => [id, seenOf(c, id, { widthM, bumperM })]))),
  );
  const verdictOf = (holds: (look: ReadonlyMap<ObjectId, ReturnType<typeof seenOf>>) => boolean): Verdict => {
    const held = looks.filter(holds).length;
    return held === looks.length ? "meets" : held === 0 ? "doesNot" : "notShown";
  };
  const shown = (id: ObjectId, look: ReadonlyMap<ObjectId, ReturnType<typeof seenOf>>) => {
    const one = look.get(id);
    return NEAR.includes(id) ? (one?.stripM ?? 0) >= STRIP_M : (one?.seen ?? 0) >= 1;
  };
  const objects = OBJECT_IDS.map((id) => {
    const { seen, stripM, acrossShare } = looks[0]?.get(id) ?? { seen: 0, stripM: 0, acrossShare: 0 };
    return { id, seen, stripM, arcmin: arcminOf(acrossShare), verdict: verdictOf((l) => shown(id, l)) };
  });
  const sizes = (look: ReadonlyMap<ObjectId, ReturnType<typeof seenOf>>) =>
    FAR.map((id) => arcminOf(look.get(id)?.acrossShare ?? 0) ?? 0);
  const known = glassWidthM !== null && eyeToGlassM !== null;
  const mean = (values: readonly number[]) => values.reduce((s, v) => s + v, 0) / values.length;
  return {
    objects,
    field: verdictOf((l) => OBJECT_IDS.every((id) => shown(id, l))),
    meanArcmin: known && looks[0] ? mean(sizes(looks[0])) : null,
    size: known ? verdictOf((l) => mean(sizes(l)) >= MEAN_ARCMIN && Math.min(...sizes(l)) >= LEAST_ARCMIN) : "notShown",
    missing: [
      ...(glassWidthM === null ? ["width of the picture"] : []),
      ...(eyeToGlassM === null ? ["distance from the driver's eye to the screen"] : []),
      ...(bumperHeightM === null && camera.pose.yM < 0 ? ["height of the bumper's edge"] : []),
    ],
  };
}

/** The camera with each figure of its pose twice its uncertainty up and down. */
function shaken(camera: Camera, sigma: PoseSigma): Camera[] {
  return (["xM", "yM", "zM", "yawDeg", "pitchDeg", "rollDeg"] as const).flatMap((key) =>
    [-2, 2].map((by) => ({ ...camera, pose: { ...camera.pose, [key]: camera.pose[key] + by * sigma[key] } })),
  );
}
