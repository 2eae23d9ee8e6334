/**
 * How a camera really looks: marks on the floor, tapped on a photo of the screen. The four corners of the screen take the
 * perspective of the photo out; pose and lens follow by least squares, with what they are uncertain by.
 *
 * The corners are tapped with the same hand as the marks, so their true places are found with the rest: the residuals
 * then follow χ² and the uncertainties hold.
 */
import { type Fitted, leastSquares } from "../geometry/least-squares";
import {
  type Corners,
  fromUnitSquare,
  mapPoint,
  type PlaneMap,
  type Point,
  toUnitSquare,
} from "../geometry/unit-square";
import { acrossDeg, type Law, type Lens, lensAcross } from "./lens";
import { atHeight, type Camera, type Pose, plainPose, viewOf } from "./pose";

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
const MARKS_FOR_TERM = 10;

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

/** A fit together with what its parameters mean. */
interface Found {
  fit: Fitted;
  camera: Camera;
  screen: Corners;
}

function reduced({ fit }: Found): number {
  return fit.chi2 / Math.max(1, fit.freedom);
}

/** Beside the expected pose: cameras hang steeper or flatter than planned, and upside down. */
const PITCHES = [15, 40, 65];

/** So near to the scatter of the taps a start needs no other beside it. */
const NEAR = 4;

function bestFit(sighting: Sighting, expected: Expected): Found | null {
  const laws: readonly Law[] = expected.law ? [expected.law] : LAWS;
  const rough = new Map<Law, Found>();
  // Every law from one pose before the next pose: most cameras are near the expected one.
  for (const pose of posesToTry(expected)) {
    for (const law of laws) {
      const found = roughFit(sighting, { ...expected, law }, [pose]);
      const before = rough.get(law);
      if (found && (!before || found.fit.chi2 < before.fit.chi2)) rough.set(law, found);
    }
    if ([...rough.values()].some((f) => reduced(f) < NEAR)) break;
  }
  const least = Math.min(...[...rough.values()].map((f) => f.fit.chi2));
  let best: Found | null = null;
  for (const law of laws) {
    const start = rough.get(law);
    if (!start || start.fit.chi2 > FAR * least) continue;
    const found = refined(sighting, start, expected);
    // The less usual law must be clearly better.
    if (!best || found.fit.chi2 < best.fit.chi2 - 4) best = found;
  }
  return best;
}

/** So much worse than the other law before its terms are found, a law is not looked at any further. */
const FAR = 20;

function posesToTry({ pose }: Expected): Pose[] {
  const upright = PITCHES.map((pitchDeg) => ({ ...pose, yawDeg: 0, rollDeg: 0, pitchDeg }));
  return [pose, ...upright, ...upright.map((p) => ({ ...p, rollDeg: 180 }))];
}

/** Most cameras that are added have a fisheye. */
const LAWS: readonly Law[] = ["fisheye", "straight"];

/**
 * Whether the marks turn the other way round than seen from above: the sign of the area that the photo makes of the
 * floor. An upside-down picture keeps it.
 */
function isMirrored({ marks, corners }: Sighting): boolean {
  const map = toUnitSquare(corners) as PlaneMap;
  const taps = marks.map((m) => mapPoint(map, m.tap));
  let turned = 0;
  for (let i = 0; i < marks.length; i++)
    for (let j = i + 1; j < marks.length; j++)
      for (let k = j + 1; k < marks.length; k++) {
        const floor = area(...([i, j, k].map((n) => marks[n]?.at) as [Point, Point, Point]));
        turned += Math.sign(floor) * area(...([i, j, k].map((n) => taps[n]) as [Point, Point, Point]));
      }
  // y runs away on the floor and v down on the glass: the usual picture turns the other way.
  return turned > 0;
}

function area(a: Point, b: Point, c: Point): number {
  return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

/** Pose and focal length with the corners as tapped, from the first start that leads there. */
function roughFit(sighting: Sighting, expected: Expected, poses = posesToTry(expected)): Found | null {
  const law = expected.law ?? LAWS[0] ?? "fisheye";
  const across = law === "straight" ? Math.min(expected.acrossDeg, 140) : expected.acrossDeg;
  const lens = lensAcross(law, across);
  const mirrored = isMirrored(sighting);
  const tap = sighting.marks.map(() => expected.tapPx);
  let best: Found | null = null;
  for (const pose of poses) {
    const camera: Camera = { pose, lens, shape: expected.shape, mirrored };
    const found = fitted(sighting, { camera, screen: sighting.corners }, tap, expected.tapPx, "pose");
    if (found && (!best || found.fit.chi2 < best.fit.chi2)) best = found;
    if (best && reduced(best) < NEAR) break;
  }
  return best;
}

/** With the corners, and with what the tape is uncertain by where each mark lies. */
function refined(sighting: Sighting, rough: Found, { tapPx, tapeM }: Expected): Found {
  const scale = pixelsPerMetre(rough);
  const both = sighting.marks.map(({ at }) => Math.hypot(tapPx, tapeM * scale(at)));
  return fitted(sighting, rough, both, tapPx, "all") ?? rough;
}

/** How many pixels of the photo a metre of the floor takes at a place, the larger of the two directions. */
function pixelsPerMetre({ camera, screen }: Pick<Found, "camera" | "screen">): (at: FloorPlace) => number {
  const photo = photoOf(camera, screen);
  const step = 0.01;
  return (at) => {
    const here = photo(at);
    const moved = [photo({ ...at, x: at.x + step }), photo({ ...at, y: at.y + step })];
    return Math.max(0, ...moved.map((m) => (m && here ? Math.hypot(m.x - here.x, m.y - here.y) / step : 0)));
  };
}

/** Where marks of the floor appear on the photo. */
function photoOf(camera: Camera, screen: Corners): (at: FloorPlace) => Point | null {
  const view = viewOf(camera);
  const map = fromUnitSquare(screen);
  return ({ x, y }) => {
    const place = view({ x, y, z: 0 });
    return place && mapPoint(map, { x: place.u, y: place.v });
  };
}

/** Order of the parameters: place, turns in degrees, logarithm of the focal length, the corners, a term of the lens. */
const POSE_PARAMETERS = 7;

/** @param what `pose`: the corners stand as tapped; `all`: they are found too, and a term of the lens where it can be */
function fitted(
  sighting: Sighting,
  start: Pick<Found, "camera" | "screen">,
  sigmaPx: readonly number[],
  tapPx: number,
  what: "pose" | "all",
): Found | null {
  const { pose, lens } = start.camera;
  const parameters = [
    pose.xM,
    pose.yM,
    pose.zM,
    pose.yawDeg,
    pose.pitchDeg,
    pose.rollDeg,
    Math.log(lens.focal),
    ...(what === "all" ? start.screen.flatMap(({ x, y }) => [x, y]) : []),
    ...(what === "all" && sighting.marks.length >= MARKS_FOR_TERM ? [lens.k1] : []),
  ];
  const fit = leastSquares((p) => {
    const { camera, screen } = read(p, start);
    if (camera.pose.zM <= 0.05) return null;
    const residuals: number[] = [];
    if (what === "all")
      screen.forEach(({ x, y }, i) => {
        const tap = sighting.corners[i] as Point;
        residuals.push((x - tap.x) / tapPx, (y - tap.y) / tapPx);
      });
    const photo = photoOf(camera, screen);
    for (const [i, { at, tap }] of sighting.marks.entries()) {
      const there = photo(at);
      if (!there) return null;
      residuals.push((there.x - tap.x) / (sigmaPx[i] ?? tapPx), (there.y - tap.y) / (sigmaPx[i] ?? tapPx));
    }
    return residuals;
  }, parameters);
  return fit && { fit, ...read(fit.parameters, start) };
}

/** What parameters mean; what is not among them stays as at the start. */
function read(p: readonly number[], { camera, screen }: Pick<Found, "camera" | "screen">) {
  const [xM = 0, yM = 0, zM = 0, yawDeg = 0, pitchDeg = 0, rollDeg = 0, focal = 0] = p;
  const corner = (i: 0 | 1 | 2 | 3): Point => ({
    x: p[POSE_PARAMETERS + 2 * i] ?? screen[i].x,
    y: p[POSE_PARAMETERS + 2 * i + 1] ?? screen[i].y,
  });
  const lens: Lens = { ...camera.lens, focal: Math.exp(focal), k1: p[POSE_PARAMETERS + 8] ?? camera.lens.k1 };
  return {
    camera: { ...camera, lens, pose: { xM, yM, zM, yawDeg, pitchDeg, rollDeg } },
    screen: [corner(0), corner(1), corner(2), corner(3)] as const,
  };
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
