/** Marks for the floor behind (or before) a car: round figures for a tape, all of them in the picture as planned. */
import { type Camera, onGlass } from "./pose";
import type { FloorPlace } from "./sighting";

export interface FloorMark {
  id: string;
  at: FloorPlace;
}

const ROWS_M = [
  [0.3, 0.5, 0.75],
  [1, 1.25],
  [2, 1.75, 1.5],
  [3, 2.5],
] as const;
const SIDES_M = [1.5, 1.25, 1, 0.75, 0.5, 0.3];
/** So far inside the glass that a camera a few degrees off still shows them. */
const MARGIN = 0.06;

/** Rows of three, each as wide as the picture allows, nearest first; numbered from left to right as the driver sits. */
export function tapePlan(camera: Camera, looks: "back" | "ahead"): FloorMark[] {
  const sure = (at: FloorPlace) => {
    const place = onGlass(camera, { ...at, z: 0 });
    return place !== null && [place.u, place.v].every((p) => p >= MARGIN && p <= 1 - MARGIN);
  };
  const places: FloorPlace[] = [];
  for (const row of ROWS_M) {
    const y = row.find((r) => SIDES_M.some((x) => sure({ x, y: r }) && sure({ x: -x, y: r })));
    if (y === undefined) continue;
    const x = SIDES_M.find((s) => sure({ x: s, y }) && sure({ x: -s, y })) ?? 0;
    const right = looks === "back" ? -x : x;
    places.push({ x: -right, y }, { x: 0, y }, { x: right, y });
  }
  return places.map((at, i) => ({ id: String(i + 1), at }));
}
