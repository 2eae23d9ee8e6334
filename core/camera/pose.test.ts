import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../sim/random";
import { opencv } from "../../tests/support/opencv";
import { acrossDeg, type Law, type Lens, lensAcross, rayAt, throughLens } from "./lens";
import { atHeight, axesOf, type Camera, onGlass, type Pose, within } from "./pose";

const STRAIGHT: Pose = { xM: 0, yM: 0, zM: 0.9, yawDeg: 0, pitchDeg: 0, rollDeg: 0 };
const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const poses = fc.record({
  xM: number(-0.4, 0.4),
  yM: number(-0.3, 0.1),
  zM: number(0.4, 1.4),
  yawDeg: number(-25, 25),
  pitchDeg: number(5, 80),
  rollDeg: number(-20, 20),
});
const laws = fc.constantFrom<Law>("straight", "fisheye");

/** The camera as OpenCV wants it, for a picture of one width. */
function inOpencv({ pose, lens, shape, mirrored }: Camera) {
  const R = axesOf(pose);
  const at = [pose.xM, pose.yM, pose.zM];
  return {
    op: lens.law,
    R,
    t: R.map((row) => -row.reduce((sum, r, i) => sum + r * (at[i] ?? 0), 0)),
    K: [
      [(mirrored ? -1 : 1) * lens.focal, 0, 0.5],
      [0, lens.focal * shape, 0.5],
      [0, 0, 1],
    ],
    terms: lens.law === "straight" ? [lens.k1, lens.k2, 0, 0, 0] : [lens.k1, lens.k2, 0, 0],
  };
}

describe("a camera over the ground", () => {
  it("turns to its right, points down and leans clockwise: worked by hand", () => {
    const camera: Camera = { pose: STRAIGHT, lens: lensAcross("straight", 90), shape: 4 / 3, mirrored: false };
    // tan 45° is the edge: a point as far to the side as ahead.
    expect(onGlass(camera, { x: 2, y: 2, z: 0.9 })?.u).toBeCloseTo(1, 12);
    expect(onGlass(camera, { x: 0, y: 3, z: 0.9 })).toEqual({ u: 0.5, v: 0.5 });
    // 45° down, the axis meets the ground as far out as the camera is high.
    const down = { ...camera, pose: { ...STRAIGHT, pitchDeg: 45 } };
    expect(onGlass(down, { x: 0, y: 0.9, z: 0 })?.v).toBeCloseTo(0.5, 12);
    const turned = { ...camera, pose: { ...STRAIGHT, yawDeg: 10 } };
    expect(onGlass(turned, { x: 0, y: 3, z: 0.9 })?.u).toBeLessThan(0.5);
    // Leaning clockwise, what was level rises on its left and falls on its right: the picture turns the other way.
    const leaning = { ...camera, pose: { ...STRAIGHT, rollDeg: 10 } };
    expect(onGlass(leaning, { x: 1, y: 3, z: 0.9 })?.v).toBeLessThan(0.5);
    expect(onGlass({ ...turned, mirrored: true }, { x: 0, y: 3, z: 0.9 })?.u).toBeGreaterThan(0.5);
  });

  it("does not see what is behind it", () => {
    const camera: Camera = { pose: STRAIGHT, lens: lensAcross("straight", 120), shape: 1, mirrored: false };
    expect(onGlass(camera, { x: 0, y: -1, z: 0.9 })).toBeNull();
    // A fisheye sees a little past its side, and its picture says that this lies outside.
    const wide = { ...camera, lens: lensAcross("fisheye", 170) };
    const beside = onGlass(wide, { x: 1, y: -0.05, z: 0.9 });
    expect(beside && within(beside)).toBe(false);
  });

  it("projects as OpenCV does, both lenses with their terms", () => {
    const random = seededRandom(14);
    const between = (min: number, max: number) => min + (max - min) * random();
    const asked = Array.from({ length: 120 }, (_, i) => {
      const law: Law = i % 2 === 0 ? "straight" : "fisheye";
      const camera: Camera = {
        pose: {
          xM: between(-0.4, 0.4),
          yM: between(-0.3, 0.1),
          zM: between(0.4, 1.4),
          yawDeg: between(-20, 20),
          pitchDeg: between(5, 60),
          rollDeg: between(-15, 15),
        },
        lens: lensAcross(law, between(60, law === "straight" ? 110 : 180), between(-0.05, 0.05), between(-0.01, 0.01)),
        shape: between(1.2, 1.8),
        mirrored: i % 3 === 0,
      };
      const points = Array.from({ length: 8 }, () => [between(-2.5, 2.5), between(1.2, 7), between(0, 0.9)]);
      return { camera, points };
    });
    const theirs = opencv(asked.map(({ camera, points }) => ({ ...inOpencv(camera), points })));
    let compared = 0;
    asked.forEach(({ camera, points }, i) => {
      points.forEach(([x = 0, y = 0, z = 0], j) => {
        const mine = onGlass(camera, { x, y, z });
        if (!mine) return;
        compared++;
        expect(mine.u).toBeCloseTo(theirs[i]?.[j]?.[0] ?? Number.NaN, 9);
        expect(mine.v).toBeCloseTo(theirs[i]?.[j]?.[1] ?? Number.NaN, 9);
      });
    });
    expect(compared).toBeGreaterThan(800);
  });

  it("finds the point of the ground that appears at a place", () => {
    let seen = 0;
    fc.assert(
      fc.property(poses, laws, number(-2, 2), number(0.5, 6), fc.boolean(), (pose, law, x, y, mirrored) => {
        const camera: Camera = { pose, lens: lensAcross(law, 100, 0.03, -0.002), shape: 1.4, mirrored };
        const place = onGlass(camera, { x, y, z: 0 });
        if (!place || !within(place)) return;
        seen++;
        const back = atHeight(camera, place);
        expect(back?.x).toBeCloseTo(x, 6);
        expect(back?.y).toBeCloseTo(y, 6);
      }),
    );
    expect(seen).toBeGreaterThan(20);
    const level: Camera = { pose: STRAIGHT, lens: lensAcross("straight", 90), shape: 1, mirrored: false };
    expect(atHeight(level, { u: 0.5, v: 0.3 })).toBeNull();
  });
});

describe("a lens", () => {
  const lenses: Lens[] = [
    lensAcross("straight", 100, -0.1, 0.01),
    lensAcross("fisheye", 190, -0.02, 0.001),
    lensAcross("fisheye", 170, 0.02, 0),
  ];

  it("keeps the angle across under any terms, and gives each ray back", () => {
    expect(lenses.map((l) => acrossDeg(l))).toEqual([100, 190, 170].map((d) => expect.closeTo(d, 9)));
    for (const lens of lenses)
      fc.assert(
        fc.property(number(0.02, 0.75), number(0, 6.28), (angle, round) => {
          const ray = [Math.sin(angle) * Math.cos(round), Math.sin(angle) * Math.sin(round), Math.cos(angle)] as const;
          const place = throughLens(lens, ray);
          const back = place && rayAt(lens, place.x, place.y);
          expect(back).toEqual(ray.map((v) => expect.closeTo(v, 9)));
        }),
      );
  });

  it("shows nothing where its terms fold the picture back", () => {
    // r(1 - r²/3) is largest at r = 1: a ray farther out than 45° would come back into the picture.
    const folding: Lens = { law: "straight", focal: 0.5, k1: -1 / 3, k2: 0 };
    expect(throughLens(folding, [1.2, 0, 1])).toBeNull();
    expect(throughLens(folding, [0.9, 0, 1])).not.toBeNull();
    expect(rayAt(folding, 0.7, 0)).toBeNull();
  });
});
