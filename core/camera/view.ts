/** The picture of a camera as lines on the glass, and what of the ground it shows. */
import { FIGURES } from "../model/figures";
import { type Camera, type OnGlass, type Spot, viewOf, within } from "./pose";
import type { FloorPlace } from "./sighting";

/** A line in space as the glass shows it: pieces that are on the glass. */
export function drawn(camera: Camera, line: readonly Spot[]): OnGlass[][] {
  const view = viewOf(camera);
  const pieces: OnGlass[][] = [];
  let piece: OnGlass[] = [];
  for (const spot of line) {
    const place = view(spot);
    // A little beyond the edge, so that a line runs to it; the drawing is cut there.
    if (place && place.u > -0.2 && place.u < 1.2 && place.v > -0.2 && place.v < 1.2) piece.push(place);
    else {
      if (piece.length > 1) pieces.push(piece);
      piece = [];
    }
  }
  if (piece.length > 1) pieces.push(piece);
  return pieces;
}

const GRID_FAR_M = 6;
const GRID_SIDE_M = 3;

/** The ground as a grid of metres, in fine steps. */
export function groundGrid(): { line: Spot[]; whole: boolean }[] {
  const lines: { line: Spot[]; whole: boolean }[] = [];
  const steps = (from: number, to: number) => Array.from({ length: 61 }, (_, i) => from + ((to - from) * i) / 60);
  for (let y = 0; y <= GRID_FAR_M; y += 0.5)
    lines.push({
      line: steps(-GRID_SIDE_M, GRID_SIDE_M).map((x) => ({ x, y, z: 0 })),
      whole: Number.isInteger(y),
    });
  for (let x = -GRID_SIDE_M; x <= GRID_SIDE_M; x++)
    lines.push({ line: steps(0, GRID_FAR_M).map((y) => ({ x, y, z: 0 })), whole: true });
  return lines;
}

/** A row of ground that the picture shows, `y` its middle. */
export interface SeenRow {
  y: number;
  fromX: number;
  toX: number;
}

/**
 * What is seen at a height, from the bumper to `farM`, in rows of `cellM`.
 *
 * @param bumper hides what lies behind its edge; null: not known, then nothing is hidden
 */
export function seenRows(
  camera: Camera,
  { heightM = 0, farM = 6, sideM = 3, cellM = 0.1, bumper = null as { heightM: number; widthM: number } | null } = {},
): SeenRow[] {
  const view = viewOf(camera);
  const { xM, yM, zM } = camera.pose;
  const hidden = ({ x, y }: FloorPlace) => {
    if (!bumper || yM >= 0) return false;
    const share = -yM / (y - yM);
    return Math.abs(xM + share * (x - xM)) <= bumper.widthM / 2 && zM + share * (heightM - zM) < bumper.heightM;
  };
  const rows: SeenRow[] = [];
  for (let y = cellM / 2; y < farM; y += cellM) {
    let from: number | null = null;
    for (let x = -sideM; x <= sideM + 1e-9; x += cellM) {
      const place = view({ x, y, z: heightM });
      const seen = place !== null && within(place) && !hidden({ x, y });
      if (seen && from === null) from = x;
      if ((!seen || x + cellM > sideM + 1e-9) && from !== null) {
        rows.push({ y, fromX: from, toX: seen ? x : x - cellM });
        from = null;
      }
    }
  }
  return rows;
}

/** The nearest ground before the middle of the bumper that is seen, in metres; null: none within six. */
export function blindBefore(rows: readonly SeenRow[]): number | null {
  return rows.find((r) => r.fromX <= 0 && r.toX >= 0)?.y ?? null;
}

/** The camera turned so that what was at one place of the glass comes to another, by a drag with a finger. */
export function dragged(camera: Camera, from: OnGlass, to: OnGlass): Camera {
  const { pose, lens, shape, mirrored } = camera;
  const across = (mirrored ? -1 : 1) / lens.focal;
  const deg = 180 / Math.PI;
  return {
    ...camera,
    pose: {
      ...pose,
      yawDeg: limit(pose.yawDeg - (to.u - from.u) * across * deg, -45, 45),
      pitchDeg: limit(
        pose.pitchDeg - ((to.v - from.v) / (lens.focal * shape)) * deg,
        FIGURES.cameraPitchDeg.min,
        FIGURES.cameraPitchDeg.max,
      ),
    },
  };
}

function limit(deg: number, least: number, most: number): number {
  return Math.max(least, Math.min(most, deg));
}
