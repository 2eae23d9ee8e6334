/** The pose, lens and screen that fit best to tapped marks. */
import { type Fitted, leastSquares } from "../geometry/least-squares";
import {
  type Corners,
  fromUnitSquare,
  mapPoint,
  type PlaneMap,
  type Point,
  toUnitSquare,
} from "../geometry/unit-square";
import { type Law, type Lens, lensAcross } from "./lens";
import { type Camera, type Pose, viewOf } from "./pose";
import { type Expected, type FloorPlace, MARKS_FOR_TERM, type Sighting } from "./sighting";

/** A fit together with what its parameters mean. */
export interface Found {
  fit: Fitted;
  camera: Camera;
  screen: Corners;
}

export function reduced({ fit }: Found): number {
  return fit.chi2 / Math.max(1, fit.freedom);
}

/** Beside the expected pose: cameras hang steeper or flatter than planned, and upside down. */
const PITCHES = [15, 40, 65];

/** So near to the scatter of the taps a start needs no other beside it. */
export const NEAR = 4;

export function bestFit(sighting: Sighting, expected: Expected): Found | null {
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
export function roughFit(sighting: Sighting, expected: Expected, poses = posesToTry(expected)): Found | null {
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
export function photoOf(camera: Camera, screen: Corners): (at: FloorPlace) => Point | null {
  const view = viewOf(camera);
  const map = fromUnitSquare(screen);
  return ({ x, y }) => {
    const place = view({ x, y, z: 0 });
    return place && mapPoint(map, { x: place.u, y: place.v });
  };
}

/** Order of the parameters: place, turns in degrees, logarithm of the focal length, the corners, a term of the lens. */
export const POSE_PARAMETERS = 7;

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
