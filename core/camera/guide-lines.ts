/**
 * The way of the car's edges over the ground, as guide lines show it: the kinematic single-track model (radius of the rear
 * axle = wheelbase / tan of the road wheel's angle; Gillespie, Fundamentals of Vehicle Dynamics, 1992). No tyre slips, as
 * at walking pace. Places as in pose.ts: x to the right as the camera looks, y away from the bumper, in metres.
 */
import { type Corners, type Point, toUnitSquare } from "../geometry/unit-square";
import type { Camera } from "./pose";
import { groundUnder } from "./sight";
import type { FloorPlace } from "./sighting";

export interface Steered {
  wheelbaseM: number;
  /** From the rear axle to the bumper that the camera looks over. */
  axleToBumperM: number;
  widthM: number;
  /** Road wheel, in degrees; positive: towards the right as the camera looks. */
  roadWheelDeg: number;
}

export type Edge = "left" | "right";
export const EDGES: readonly Edge[] = ["left", "right"];

/** Flatter than this a line is straight: a kilometre of radius. */
const STRAIGHT_DEG = 0.1;

const DEG = Math.PI / 180;

/** The road wheel's angle at an angle of the steering wheel, both in degrees. @param ratio steering ratio */
export function roadWheelDeg(steeringWheelDeg: number, ratio: number): number {
  return steeringWheelDeg / ratio;
}

/** Where an edge of the bumper goes, a place for every `stepM` that the rear axle rolls, until `reachM` from the bumper. */
export function edgePath(car: Steered, edge: Edge, reachM = 5, stepM = 0.1): FloorPlace[] {
  const from = start(car, edge);
  const centre = turningCentre(car);
  const places: FloorPlace[] = [];
  for (let rolled = 0; rolled <= 2 * reachM; rolled += stepM) {
    const place = centre === null ? { x: from.x, y: rolled } : around(centre, from, rolled);
    // A circle that turns back leads no farther away.
    if (place.y > reachM + 1e-9 || (places.length > 0 && place.y < (places.at(-1)?.y ?? 0))) break;
    places.push(place);
  }
  return places;
}

/** Where an edge is when the bumper is `y` metres from where it stood; null: it never gets there. */
export function edgeAt(car: Steered, edge: Edge, y: number): number | null {
  const from = start(car, edge);
  const centre = turningCentre(car);
  if (centre === null) return from.x;
  const radius = Math.hypot(from.x - centre.x, from.y - centre.y);
  const rest = radius ** 2 - (y - centre.y) ** 2;
  return rest < 0 ? null : centre.x + Math.sign(from.x - centre.x) * Math.sqrt(rest);
}

function start({ widthM }: Steered, edge: Edge): FloorPlace {
  return { x: ((edge === "left" ? -1 : 1) * widthM) / 2, y: 0 };
}

/** On the line of the rear axle; null: straight on. */
function turningCentre({ wheelbaseM, axleToBumperM, roadWheelDeg: deg }: Steered): FloorPlace | null {
  if (Math.abs(deg) < STRAIGHT_DEG) return null;
  return { x: wheelbaseM / Math.tan(deg * DEG), y: -axleToBumperM };
}

/** A place of the car turned about the centre while the axle rolls so far. */
function around(centre: FloorPlace, from: FloorPlace, rolledM: number): FloorPlace {
  const angle = -rolledM / centre.x;
  const [x, y] = [from.x - centre.x, from.y - centre.y];
  return {
    x: centre.x + x * Math.cos(angle) - y * Math.sin(angle),
    y: centre.y + x * Math.sin(angle) + y * Math.cos(angle),
  };
}

/** Distances from the bumper at which lines are judged, in metres. */
export const JUDGED_M = [1, 2, 3] as const;

export interface LineError {
  edge: Edge;
  atM: number;
  /** How far the line lies to the right of where the edge will be, as the camera looks; null: not tapped as far. */
  offCm: number | null;
}

/**
 * Lines that a module draws into the picture, against where the car goes.
 *
 * @param taps places along each line on a photo of the screen, in any order
 */
export function lineErrors(
  camera: Camera,
  corners: Corners,
  taps: Readonly<Record<Edge, readonly Point[]>>,
  car: Steered,
): LineError[] {
  const glass = toUnitSquare(corners);
  return EDGES.flatMap((edge) => {
    const ground = taps[edge]
      .flatMap((t) => (glass && groundUnder(camera, corners, t)) || [])
      .sort((a, b) => a.y - b.y);
    return JUDGED_M.map((atM) => {
      const line = between(ground, atM);
      const exact = edgeAt(car, edge, atM);
      return { edge, atM, offCm: line === null || exact === null ? null : 100 * (line - exact) };
    });
  });
}

/** x of a line at a distance, straight between the nearest two places on both sides of it. */
function between(line: readonly FloorPlace[], y: number): number | null {
  const after = line.findIndex((p) => p.y >= y);
  const [a, b] = [line[after - 1], line[after]];
  if (b && Math.abs(b.y - y) < 1e-9) return b.x;
  return a && b ? a.x + ((b.x - a.x) * (y - a.y)) / (b.y - a.y) : null;
}
