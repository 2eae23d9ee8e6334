import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { seededRandom } from "../../sim/random";
import { opencv } from "../../tests/support/opencv";
import { normals, screenOn, sighted } from "../../tests/support/sighting";
import { acrossDeg, type Law, lensAcross } from "./lens";
import { axesOf, type Camera, type Pose, plainPose } from "./pose";
import { foreseen, groundUnder, type Measured, sight, suspects } from "./sight";
import type { Expected, Sighting } from "./sighting";
import { tapePlan } from "./tape-plan";

const PLAN: Camera = {
  pose: { xM: 0, yM: -0.05, zM: 0.9, yawDeg: 0, pitchDeg: 35, rollDeg: 0 },
  lens: lensAcross("fisheye", 150),
  shape: 4 / 3,
  mirrored: true,
};
const EXPECTED: Expected = { pose: PLAN.pose, acrossDeg: 150, law: null, shape: 4 / 3, tapPx: 1, tapeM: 0 };
const MARKS = tapePlan(PLAN, "back");
const SCREEN = screenOn(2000);

function measuredOf(sighting: Sighting, expected: Expected = EXPECTED): Measured {
  const outcome = sight(sighting, expected);
  if (outcome.kind !== "measured") throw new Error(JSON.stringify(outcome));
  return outcome;
}

const tilted = (turn: Partial<Pose>, more: Partial<Camera> = {}): Camera => ({
  ...PLAN,
  ...more,
  pose: { ...PLAN.pose, ...turn },
});

describe("a camera measured by marks on the floor", () => {
  it("is found exactly from exact taps, whichever lens, mirrored or not, upside down too", () => {
    const real = [
      tilted({ pitchDeg: 38, yawDeg: -3, rollDeg: 2, xM: 0.1, zM: 0.95 }),
      tilted({ pitchDeg: 30, yawDeg: 4 }, { mirrored: false }),
      tilted({ rollDeg: 178 }, { mirrored: false }),
      tilted({ pitchDeg: 33, rollDeg: -2 }, { lens: lensAcross("straight", 118) }),
      tilted({ zM: 1.1 }, { lens: lensAcross("fisheye", 150, 0.02) }),
    ];
    for (const camera of real) {
      const found = measuredOf(sighted(camera, MARKS, SCREEN));
      expect(found.camera.mirrored).toBe(camera.mirrored);
      expect(found.camera.lens.law).toBe(camera.lens.law);
      for (const key of ["xM", "yM", "zM", "yawDeg", "pitchDeg", "rollDeg"] as const)
        expect(found.camera.pose[key]).toBeCloseTo(camera.pose[key], 4);
      expect(acrossDeg(found.camera.lens)).toBeCloseTo(acrossDeg(camera.lens), 3);
      expect(found.rmsPx).toBeLessThan(1e-4);
    }
  });

  it("is found within 0.3° and 2 cm when each tap is 1 pixel off, and the residuals follow χ²", () => {
    const random = seededRandom(5);
    const normal = normals(random);
    const laws: [Law, number][] = [
      ["fisheye", 150],
      ["fisheye", 130],
      ["straight", 110],
    ];
    let [outside, held, worstM] = [0, 0, 0];
    let chi = 0;
    let freedom = 0;
    const tries = 120;
    for (let i = 0; i < tries; i++) {
      const [law, across] = laws[i % 3] as [Law, number];
      const plan = { ...PLAN, lens: lensAcross(law, across) };
      const camera: Camera = {
        ...plan,
        pose: {
          xM: 0.05 * normal(),
          yM: -0.05 + 0.02 * normal(),
          zM: 0.9 + 0.04 * normal(),
          yawDeg: 2 * normal(),
          pitchDeg: 35 + 2 * normal(),
          rollDeg: 1.5 * normal(),
        },
        lens: lensAcross(law, across + 3 * normal(), 0.01 * normal()),
      };
      const found = measuredOf(sighted(camera, tapePlan(plan, "back"), SCREEN, normal), {
        ...EXPECTED,
        acrossDeg: across,
        // Half of them without being told which law the lens has.
        law: i % 2 === 0 ? law : null,
      });
      const off = (key: "pitchDeg" | "yawDeg" | "zM") => Math.abs(found.camera.pose[key] - camera.pose[key]);
      outside += off("pitchDeg") > 0.3 || off("yawDeg") > 0.3 ? 1 : 0;
      worstM = Math.max(worstM, off("zM"));
      held += off("pitchDeg") <= 1.96 * found.sigma.pitchDeg ? 1 : 0;
      chi += found.chi2;
      freedom += found.freedom;
    }
    expect(outside).toBe(0);
    expect(worstM).toBeLessThan(0.02);
    // The interval of 95 % holds the truth 114 times of 120; fewer than 107 would happen once in a thousand.
    expect(held).toBeGreaterThanOrEqual(107);
    // The sum is χ² of mean `freedom` and variance twice that.
    expect(Math.abs(chi - freedom)).toBeLessThan(3.3 * Math.sqrt(2 * freedom));
  });

  it("agrees with OpenCV's solvePnP on the same points", () => {
    // solvePnP is told the lens; from exact points both must find the one pose.
    const camera = tilted(
      { pitchDeg: 41, yawDeg: 2, rollDeg: -1.5 },
      { lens: lensAcross("straight", 110), mirrored: false },
    );
    const sighting = sighted(camera, MARKS, [
      { x: 0, y: 0 },
      { x: 1000, y: 0 },
      { x: 1000, y: 600 },
      { x: 0, y: 600 },
    ]);
    const found = measuredOf(sighting, { ...EXPECTED, law: "straight", acrossDeg: 120 });
    const focal = 1000 * camera.lens.focal;
    const [theirs] = opencv([
      {
        op: "pnp",
        points: sighting.marks.map(({ at }) => [at.x, at.y, 0]),
        image: sighting.marks.map(({ tap }) => [tap.x, tap.y]),
        K: [
          [focal, 0, 500],
          [0, (focal * camera.shape * 600) / 1000, 300],
          [0, 0, 1],
        ],
        terms: [0, 0, 0, 0, 0],
      },
    ]);
    axesOf(found.camera.pose).forEach((row, i) => {
      row.forEach((v, j) => {
        expect(v).toBeCloseTo(theirs?.R[i]?.[j] ?? Number.NaN, 5);
      });
    });
  });

  it("says what is missing or wrong instead of a number", () => {
    const whole = sighted(PLAN, MARKS, SCREEN);
    expect(sight({ ...whole, marks: whole.marks.slice(0, 3) }, EXPECTED)).toEqual({ kind: "few", missing: 3 });
    const [a, b, c, d] = whole.corners;
    expect(sight({ ...whole, corners: [a, c, b, d] }, EXPECTED)).toEqual({ kind: "corners" });
    const line = Array.from({ length: 8 }, (_, i) => ({ id: `${i}`, at: { x: (i - 4) / 4, y: 2 } }));
    expect(sight(sighted(PLAN, line, SCREEN), EXPECTED).kind).toBe("loose");
    // A photo of nothing: taps anywhere.
    const random = seededRandom(8);
    const marks = whole.marks.map((m) => ({ ...m, tap: { x: 300 + 2000 * random(), y: 250 + 1200 * random() } }));
    expect(sight({ ...whole, marks }, EXPECTED).kind).toBe("noFit");
    expect(suspects({ ...whole, marks }, EXPECTED)).toBeNull();
  });

  it("names two marks that were tapped in each other's place, and one that was set wrong", () => {
    const normal = normals(seededRandom(4));
    const whole = sighted(tilted({ pitchDeg: 37 }), MARKS, SCREEN, normal);
    const [first, second] = [whole.marks[3], whole.marks[7]];
    if (!first || !second) throw new Error("the plan has fewer marks");
    const exchanged = whole.marks.map((m) =>
      m === first ? { ...m, tap: second.tap } : m === second ? { ...m, tap: first.tap } : m,
    );
    expect(sight({ ...whole, marks: exchanged }, EXPECTED).kind).toBe("noFit");
    expect(suspects({ ...whole, marks: exchanged }, EXPECTED)).toEqual([first.id, second.id]);
    const wrong = whole.marks.map((m) => (m === second ? { ...m, at: { ...m.at, y: m.at.y + 0.5 } } : m));
    expect(sight({ ...whole, marks: wrong }, EXPECTED).kind).toBe("noFit");
    expect(suspects({ ...whole, marks: wrong }, EXPECTED)).toEqual([second.id]);
  });

  it("widens its uncertainty when the hand was less sure than assumed", () => {
    const normal = normals(seededRandom(6));
    const calm = measuredOf(sighted(PLAN, MARKS, SCREEN, normal));
    const shaky = measuredOf(sighted(PLAN, MARKS, SCREEN, () => 3 * normal()));
    expect(shaky.sigma.pitchDeg).toBeGreaterThan(2 * calm.sigma.pitchDeg);
  });

  it("finds the ground under a line of the photo", () => {
    const sighting = sighted(PLAN, MARKS, SCREEN);
    for (const { at, tap } of sighting.marks) {
      const ground = groundUnder(PLAN, SCREEN, tap);
      expect(ground).toMatchObject({ x: expect.closeTo(at.x, 6), y: expect.closeTo(at.y, 6) });
    }
  });
});

describe("the tape plan", () => {
  it("has marks that the picture shows, in round figures, enough for any usual camera", () => {
    const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
    fc.assert(
      fc.property(number(0.5, 1.2), number(28, 50), number(110, 180), fc.boolean(), (zM, pitchDeg, across, back) => {
        const camera: Camera = { ...tilted({ zM, pitchDeg }), lens: lensAcross("fisheye", across) };
        const marks = tapePlan(camera, back ? "back" : "ahead");
        expect(marks.length).toBeGreaterThanOrEqual(6);
        for (const { at } of marks) expect(((at.y * 100) % 5) + ((Math.abs(at.x) * 100) % 5)).toBeCloseTo(0, 9);
        expect(foreseen(camera, marks)?.pitchDeg).toBeLessThan(1);
      }),
      { numRuns: 30 },
    );
  });

  it("begins at the driver's left, at the front too", () => {
    expect(tapePlan(PLAN, "back")[0]?.at.x).toBeGreaterThan(0);
    expect(tapePlan(PLAN, "ahead")[0]?.at.x).toBeLessThan(0);
  });
});

describe("a pose in plain angles", () => {
  it("is the same pose", () => {
    const number = fc.double({ min: -720, max: 720, noNaN: true });
    fc.assert(
      fc.property(number, number, number, (yawDeg, pitchDeg, rollDeg) => {
        const pose = { ...PLAN.pose, yawDeg, pitchDeg, rollDeg };
        const plain = plainPose(pose);
        expect(Math.abs(plain.pitchDeg)).toBeLessThanOrEqual(90);
        axesOf(plain).forEach((row, i) => {
          row.forEach((v, j) => {
            expect(v).toBeCloseTo(axesOf(pose)[i]?.[j] ?? Number.NaN, 6);
          });
        });
      }),
    );
  });
});
