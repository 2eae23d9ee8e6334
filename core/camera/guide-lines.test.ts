import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../sim/random";
import { normals, screenOn, sighted } from "../../tests/support/sighting";
import { fromUnitSquare, mapPoint, type Point } from "../geometry/unit-square";
import { EDGES, type Edge, edgeAt, edgePath, lineErrors, roadWheelDeg, type Steered } from "./guide-lines";
import { lensAcross } from "./lens";
import { atHeight, type Camera, onGlass } from "./pose";
import { sight } from "./sight";
import { tapePlan } from "./tape-plan";
import { drawn } from "./view";

const CAR: Steered = { wheelbaseM: 2.49, axleToBumperM: 0.69, widthM: 1.72, roadWheelDeg: 0 };
const CAMERA: Camera = {
  pose: { xM: 0.03, yM: -0.05, zM: 0.9, yawDeg: 1, pitchDeg: 36, rollDeg: -1 },
  lens: lensAcross("fisheye", 150, 0.01),
  shape: 4 / 3,
  mirrored: true,
};

/** The way of a corner by stepping the single-track model in time: speed along the car, yaw rate v tan δ / L. */
function stepped(car: Steered, edge: Edge, rolledM: number): Point {
  const steps = 20_000;
  const ds = rolledM / steps;
  const turn = Math.tan((car.roadWheelDeg * Math.PI) / 180) / car.wheelbaseM;
  // The rear axle rolls away from where the camera stood; it turns towards the right as the camera looks.
  let [x, y, heading] = [0, -car.axleToBumperM, 0];
  for (let i = 0; i < steps; i++) {
    const middle = heading + (turn * ds) / 2;
    x += ds * Math.sin(middle);
    y += ds * Math.cos(middle);
    heading += turn * ds;
  }
  const side = ((edge === "left" ? -1 : 1) * car.widthM) / 2;
  return {
    x: x + car.axleToBumperM * Math.sin(heading) + side * Math.cos(heading),
    y: y + car.axleToBumperM * Math.cos(heading) - side * Math.sin(heading),
  };
}

describe("the way of the car's edges", () => {
  it("has the radius of the handbook: wheelbase over the tangent of the road wheel", () => {
    // 2.49 m at 30°: 4.313 m to the middle of the rear axle. The inner corner turns about the same centre.
    const car = { ...CAR, roadWheelDeg: 30 };
    const centre = { x: 2.49 / Math.tan(Math.PI / 6), y: -0.69 };
    expect(centre.x).toBeCloseTo(4.313, 3);
    const radius = Math.hypot(0.86 - centre.x, 0.69);
    for (const place of edgePath(car, "right"))
      expect(Math.hypot(place.x - centre.x, place.y - centre.y)).toBeCloseTo(radius, 9);
    expect(roadWheelDeg(438, 14.6)).toBeCloseTo(30, 9);
  });

  it("is that of the model stepped in time, to either side and straight on", () => {
    for (const roadWheel of [-35, -12, -0.05, 0, 8, 30])
      for (const edge of EDGES) {
        const car = { ...CAR, roadWheelDeg: roadWheel };
        const path = edgePath(car, edge, 4, 0.5);
        path.slice(0, 5).forEach((place, i) => {
          const other = stepped(car, edge, 0.5 * i);
          // So flat that it is taken as straight: 3 m on, 2 mm to the side.
          expect(place.x).toBeCloseTo(other.x, Math.abs(roadWheel) === 0.05 ? 2 : 5);
          expect(place.y).toBeCloseTo(other.y, Math.abs(roadWheel) === 0.05 ? 2 : 5);
        });
      }
  });

  it("passes the same places whether it is followed or asked for at a distance", () => {
    fc.assert(
      fc.property(fc.double({ min: -20, max: 20, noNaN: true }), fc.constantFrom(...EDGES), (deg, edge) => {
        const car = { ...CAR, roadWheelDeg: deg };
        for (const { x, y } of edgePath(car, edge)) expect(edgeAt(car, edge, y)).toBeCloseTo(x, 5);
      }),
    );
    // Full lock with a short wheelbase: the inner corner never gets 5 m away.
    expect(edgeAt({ ...CAR, wheelbaseM: 1.6, roadWheelDeg: 45 }, "right", 5)).toBeNull();
  });

  it("is drawn on the glass within 3 cm of the exact way at 3 m", () => {
    for (const roadWheel of [-30, -10, 0, 10, 30])
      for (const edge of EDGES) {
        const car = { ...CAR, roadWheelDeg: roadWheel };
        const [line = []] = drawn(
          CAMERA,
          edgePath(car, edge).map(({ x, y }) => ({ x, y, z: 0 })),
        );
        // As drawn: straight from point to point on the glass. Looked at in between, where it is farthest off.
        let looked = 0;
        line.slice(1).forEach((b, i) => {
          const a = line[i] as typeof b;
          const ground = atHeight(CAMERA, { u: (a.u + b.u) / 2, v: (a.v + b.v) / 2 });
          if (!ground || ground.y > 3.2) return;
          looked++;
          expect(Math.abs(ground.x - (edgeAt(car, edge, ground.y) ?? Number.NaN))).toBeLessThan(0.03);
        });
        if (Math.abs(roadWheel) <= 10) expect(looked).toBeGreaterThan(5);
      }
  });
});

describe("lines that a module draws", () => {
  const screen = screenOn(2000);
  /** Points on the photo along a line that starts at an edge and runs off by so much at 3 m. */
  const taps = (camera: Camera, car: Steered, offAt3M: number, hand: () => number) =>
    Object.fromEntries(
      EDGES.map((edge) => [
        edge,
        [0.5, 0.9, 1.3, 1.8, 2.4, 3, 3.6].flatMap((y) => {
          const place = onGlass(camera, { x: (edgeAt(car, edge, y) ?? 0) + (offAt3M * y) / 3, y, z: 0 });
          if (!place) return [];
          const p = mapPoint(fromUnitSquare(screen), { x: place.u, y: place.v });
          return [{ x: p.x + hand(), y: p.y + hand() }];
        }),
      ]),
    ) as Record<Edge, Point[]>;

  it("are told in centimetres at 1, 2 and 3 m, with the camera as it was measured", () => {
    const normal = normals(seededRandom(21));
    const plan = { ...CAMERA, pose: { ...CAMERA.pose, xM: 0, yawDeg: 0, rollDeg: 0, pitchDeg: 35 } };
    const sighting = sighted(CAMERA, tapePlan(plan, "back"), screen, normal);
    const found = sight(sighting, {
      pose: plan.pose,
      acrossDeg: 150,
      law: "fisheye",
      shape: 4 / 3,
      tapPx: 1,
      tapeM: 0,
    });
    if (found.kind !== "measured") throw new Error(found.kind);
    const car = { ...CAR, roadWheelDeg: 12 };
    for (const off of [0, 0.12]) {
      const errors = lineErrors(found.camera, sighting.corners, taps(CAMERA, car, off, normal), car);
      expect(errors.map((e) => [e.edge, e.atM])).toEqual(EDGES.flatMap((e) => [1, 2, 3].map((m) => [e, m])));
      for (const e of errors) expect(Math.abs((e.offCm ?? Number.NaN) - (100 * off * e.atM) / 3)).toBeLessThan(3);
    }
  });

  it("are not told beyond what was tapped", () => {
    const all = taps(CAMERA, CAR, 0, () => 0);
    const short = { left: all.left.slice(0, 5), right: [] };
    expect(lineErrors(CAMERA, screen, short, CAR).map((e) => e.offCm === null)).toEqual([
      false,
      false,
      true,
      true,
      true,
      true,
    ]);
  });
});
