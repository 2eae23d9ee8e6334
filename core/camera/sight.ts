/**
 * How a camera really looks: marks on the floor, tapped on a photo of the screen. The four corners of the screen take the
 * perspective of the photo out; pose and lens follow by least squares, with what they are uncertain by.
 *
 * The corners are tapped with the same hand as the marks, so their true places are found with the rest: the residuals
 * then follow χ² and the uncertainties hold.
 */
import { type Corners, mapPoint, type Point, toUnitSquare } from "../geometry/unit-square";
import { acrossDeg } from "./lens";
import { atHeight, type Camera, type Pose, plainPose } from "./pose";
import { bestFit, type Found, NEAR, POSE_PARAMETERS, photoOf, reduced, roughFit } from "./pose-fit";
import {
  type Expected,
  type FloorPlace,
  MARKS_NEEDED,
  type Sighting,
  TAP_PX,
  TAPE_M,
  type TappedMark,
} from "./sighting";

/** Uncertainties, one standard deviation. */
export type PoseSigma = Pose & { acrossDeg: number };

export interface Measured {
  kind: "measured";
  camera: Camera;
  sigma: PoseSigma;
  chi2: number;
  freedom: number;
  /** Where each mark should have been tapped, and how far off the tap was: on the photo and on the floor. */
  marks: { id: string; expected: Point; offPx: number; offCm: number | null }[];
  /** Root of the mean square of the distances between tap and mark, in pixels of the photo. */
  rmsPx: number;
}

export type SightOutcome =
  /** So many marks are still missing. */
  | { kind: "few"; missing: number }
  /** The corners of the screen make no quadrilateral. */
  | { kind: "corners" }
  /** The marks lie so that pose and lens cannot be told apart. */
  | { kind: "loose" }
  /** No camera sees the marks so; `suspects` looks for the reason. */
  | { kind: "noFit"; rmsPx: number | null }
  | Measured;

/** χ² by degree of freedom above which the taps do not belong to these marks, whatever the hand. */
const IMPOSSIBLE = 25;

/** Pose, lens and screen of a sighting, with residuals and uncertainties. */
export function sight(sighting: Sighting, expected: Expected): SightOutcome {
  const missing = MARKS_NEEDED - sighting.marks.length;
  if (missing > 0) return { kind: "few", missing };
  if (!toUnitSquare(sighting.corners)) return { kind: "corners" };
  const best = bestFit(sighting, expected);
  if (!best) return { kind: "noFit", rmsPx: null };
  if (reduced(best) > IMPOSSIBLE)
    return { kind: "noFit", rmsPx: residualsOf(sighting, best.camera, best.screen).rmsPx };
  if (!best.fit.covariance) return { kind: "loose" };
  return measured(sighting, best, best.fit.covariance);
}

function residualsOf(sighting: Sighting, camera: Camera, screen: Corners): Pick<Measured, "marks" | "rmsPx"> {
  const glass = toUnitSquare(screen);
  const photo = photoOf(camera, screen);
  const marks = sighting.marks.flatMap(({ id, at, tap }) => {
    const expected = photo(at);
    if (!expected) return [];
    const { x: u, y: v } = glass ? mapPoint(glass, tap) : { x: Number.NaN, y: Number.NaN };
    const ground = atHeight(camera, { u, v });
    return {
      id,
      expected,
      offPx: Math.hypot(expected.x - tap.x, expected.y - tap.y),
      offCm: ground && 100 * Math.hypot(ground.x - at.x, ground.y - at.y),
    };
  });
  return { marks, rmsPx: Math.sqrt(marks.reduce((s, m) => s + m.offPx ** 2, 0) / Math.max(1, marks.length)) };
}

function measured(sighting: Sighting, found: Found, covariance: readonly number[][]): Measured {
  const { fit, camera, screen } = found;
  // A hand less sure than assumed shows in the residuals: then they are what the uncertainty follows from.
  const wider = Math.max(1, reduced(found));
  const sigma = (i: number) => Math.sqrt((covariance[i]?.[i] ?? 0) * wider);
  const focal = sigma(POSE_PARAMETERS - 1);
  const slope = (acrossDeg({ ...camera.lens, focal: camera.lens.focal * 1.001 }) - acrossDeg(camera.lens)) / 0.001;
  return {
    kind: "measured",
    camera: { ...camera, pose: plainPose(camera.pose) },
    sigma: {
      xM: sigma(0),
      yM: sigma(1),
      zM: sigma(2),
      yawDeg: sigma(3),
      pitchDeg: sigma(4),
      rollDeg: sigma(5),
      acrossDeg: Math.abs(slope) * focal,
    },
    chi2: fit.chi2,
    freedom: fit.freedom,
    ...residualsOf(sighting, camera, screen),
  };
}

/**
 * Why a sighting does not fit: two taps that were exchanged, or one mark at the wrong place, whatever alone makes the rest
 * fit. Takes up to a second.
 *
 * @returns null when no single mistake explains it
 */
export function suspects(sighting: Sighting, expected: Expected): [string] | [string, string] | null {
  const { marks } = sighting;
  let best: { suspects: [string] | [string, string]; chi2: number } | null = null;
  const look = (changed: readonly TappedMark[], who: [string] | [string, string]) => {
    const found = roughFit({ ...sighting, marks: changed }, expected);
    if (found && reduced(found) < NEAR && (!best || reduced(found) < best.chi2))
      best = { suspects: who, chi2: reduced(found) };
  };
  for (const [i, a] of marks.entries())
    for (const b of marks.slice(i + 1))
      look(
        marks.map((m) => (m === a ? { ...m, tap: b.tap } : m === b ? { ...m, tap: a.tap } : m)),
        [a.id, b.id],
      );
  // One left out takes two readings with it; it counts only when no exchange does.
  if (!best && marks.length > MARKS_NEEDED)
    for (const a of marks)
      look(
        marks.filter((m) => m !== a),
        [a.id],
      );
  return (best as { suspects: [string] | [string, string] } | null)?.suspects ?? null;
}

/** What the marks would tell of a camera, were it as planned: one standard deviation each. Null: too few, or loose. */
export function foreseen(
  camera: Camera,
  marks: readonly { id: string; at: FloorPlace }[],
  screenPx = 1200,
): PoseSigma | null {
  const corners: Corners = [
    { x: 0, y: 0 },
    { x: screenPx, y: 0 },
    { x: screenPx, y: screenPx * 0.6 },
    { x: 0, y: screenPx * 0.6 },
  ];
  const photo = photoOf(camera, corners);
  const tapped = marks.flatMap(({ id, at }) => {
    const tap = photo(at);
    return tap ? [{ id, at, tap }] : [];
  });
  const { law } = camera.lens;
  const outcome = sight(
    { corners, marks: tapped },
    { pose: camera.pose, acrossDeg: acrossDeg(camera.lens), law, shape: camera.shape, tapPx: TAP_PX, tapeM: TAPE_M },
  );
  return outcome.kind === "measured" ? outcome.sigma : null;
}

/** What of the ground a line of the photo shows, for lines that the module draws. Null: not on the ground. */
export function groundUnder(camera: Camera, corners: Corners, tap: Point): FloorPlace | null {
  const map = toUnitSquare(corners);
  if (!map) return null;
  const { x: u, y: v } = mapPoint(map, tap);
  return atHeight(camera, { u, v });
}
