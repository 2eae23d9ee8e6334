/**
 * A photo of the stand-in car's screen while the picture of a camera is on it: the ground with the marks that were set,
 * the bumper, and the guide lines of the module. The camera hangs a few degrees off until it is turned; the lines are
 * drawn for the camera as it should be, as a module does it.
 */
import { EDGES, edgePath, type Steered } from "../core/camera/guide-lines";
import type { Camera, Pose, Spot } from "../core/camera/pose";
import { type FloorMark, tapePlan } from "../core/camera/tape-plan";
import type { Axis } from "../core/camera/turn";
import { drawn, groundGrid } from "../core/camera/view";
import { type Corners, fromUnitSquare, mapPoint } from "../core/geometry/unit-square";
import { camerasOf, steeredOf, wantedOf } from "../core/job/cameras";
import type { JobPlan } from "../core/job/plan";
import type { JobState } from "../core/log/entry";
import { seededRandom } from "./random";

const PHOTO = { width: 2400, height: 1600 } as const;

/** The screen on the photo, as somebody holds a phone before it. */
export const PHOTO_SCREEN: Corners = [
  { x: 212, y: 188 },
  { x: 2180, y: 150 },
  { x: 2236, y: 1398 },
  { x: 176, y: 1340 },
];

/** How the camera really hangs. @param seed of the job */
function hangs(wanted: Camera, seed: number, turned: readonly { axis: Axis; byDeg: number }[]): Camera {
  const random = seededRandom(seed);
  const off = (most: number) => (random() < 0.5 ? -1 : 1) * most * (0.5 + random() / 2);
  const pose: Pose = {
    ...wanted.pose,
    xM: wanted.pose.xM + off(0.03),
    zM: wanted.pose.zM + off(0.03),
    pitchDeg: wanted.pose.pitchDeg + off(4),
    yawDeg: wanted.pose.yawDeg + off(3),
    rollDeg: wanted.pose.rollDeg + off(2),
  };
  // A hand turns it to a tenth of a degree.
  for (const { axis, byDeg } of turned) pose[axis] += byDeg + off(0.1);
  return { ...wanted, pose };
}

/**
 * The photo as SVG; null when the job has no such camera.
 *
 * @param steeringWheelDeg positive: turned to the right
 */
export function cameraPhoto(
  plan: JobPlan,
  state: JobState,
  id: string,
  seed: number,
  steeringWheelDeg: number,
): string | null {
  const camera = camerasOf(plan).find((c) => c.id === id);
  if (!camera) return null;
  const wanted = wantedOf(plan, state, camera).camera;
  const turned = (state.sights.get(id)?.turned ?? []).flatMap((t) => t.value.turns);
  const steered = steeredOf(plan, state, camera, steeringWheelDeg);
  return photoOf(hangs(wanted, seed, turned), wanted, tapePlan(wanted, camera.looks), steered);
}

function photoOf(real: Camera, wanted: Camera, marks: readonly FloorMark[], steered: Steered | null): string {
  const map = fromUnitSquare(PHOTO_SCREEN);
  const onPhoto = ({ u, v }: { u: number; v: number }) => {
    const { x, y } = mapPoint(map, { x: u, y: v });
    return `${x.toFixed(1)},${y.toFixed(1)}`;
  };
  const path = (camera: Camera, line: readonly Spot[], look: string) =>
    drawn(camera, line)
      .map((piece) => `<polyline fill="none" ${look} points="${piece.map(onPhoto).join(" ")}"/>`)
      .join("");
  const outline = PHOTO_SCREEN.map(({ x, y }) => `${x},${y}`).join(" ");
  const cross = ({ at: { x, y }, id }: FloorMark) => {
    const arm = 0.05;
    const arms = [
      [
        { x: x - arm, y, z: 0 },
        { x: x + arm, y, z: 0 },
      ],
      [
        { x, y: y - arm, z: 0 },
        { x, y: y + arm, z: 0 },
      ],
    ];
    const [place] = drawn(real, [
      { x, y, z: 0 },
      { x: x + 1e-4, y, z: 0 },
    ]).flat();
    if (!place) return "";
    const [px, py] = onPhoto(place).split(",");
    return `${arms.map((a) => path(real, a, 'stroke="#fff" stroke-width="5"')).join("")}<text x="${Number(px) + 14}" y="${Number(py) - 14}" fill="#fff" font-size="34" font-family="sans-serif">${id}</text>`;
  };
  const lines = steered
    ? EDGES.map((edge) =>
        path(
          wanted,
          edgePath(steered, edge).map(({ x, y }) => ({ x, y, z: 0 })),
          'stroke="#f4d35e" stroke-width="7"',
        ),
      ).join("")
    : "";
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${PHOTO.width}" height="${PHOTO.height}" viewBox="0 0 ${PHOTO.width} ${PHOTO.height}">`,
    `<defs><clipPath id="glass"><polygon points="${outline}"/></clipPath></defs>`,
    `<rect width="${PHOTO.width}" height="${PHOTO.height}" fill="#2b2b2e"/>`,
    `<polygon points="${outline}" fill="#6f7275" stroke="#000" stroke-width="6"/>`,
    `<g clip-path="url(#glass)">`,
    ...groundGrid().map((g) => path(real, g.line, `stroke="#84878a" stroke-width="${g.whole ? 3 : 1}"`)),
    ...marks.map(cross),
    lines,
    "</g></svg>",
  ].join("\n");
}
