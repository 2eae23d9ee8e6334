import { describe, expect, it } from "vitest";
import { lensAcross } from "./lens";
import type { Camera, Pose } from "./pose";
import { OBJECT_IDS, OBJECTS, rearView, type Surroundings, seenOf } from "./rear-view";
import { responseTime } from "./response-time";
import type { PoseSigma } from "./sight";
import { blindBefore, dragged, drawn, groundGrid, seenRows } from "./view";

const AT = (turn: Partial<Pose>, across = 185): Camera => ({
  pose: { xM: 0, yM: 0.02, zM: 0.95, yawDeg: 0, pitchDeg: 42, rollDeg: 0, ...turn },
  lens: lensAcross("fisheye", across),
  shape: 4 / 3,
  mirrored: true,
});
const AROUND: Surroundings = { widthM: 1.72, bumperHeightM: 0.6, glassWidthM: 0.16, eyeToGlassM: 0.7 };
const SURE: PoseSigma = {
  xM: 0.005,
  yM: 0.01,
  zM: 0.01,
  yawDeg: 0.1,
  pitchDeg: 0.1,
  rollDeg: 0.1,
  acrossDeg: 0.5,
};

describe("the required rear view", () => {
  it("has its cylinders where the rule puts them", () => {
    // 49 CFR 571.111, S14.1 (from memory): 1.52 m to each side, 0.3, 3.05 and 6.1 m behind the bumper.
    expect(OBJECT_IDS.map((id) => OBJECTS[id].y)).toEqual([6.1, 6.1, 6.1, 3.05, 3.05, 0.3, 0.3]);
    expect(OBJECT_IDS.map((id) => Math.abs(OBJECTS[id].x))).toEqual([1.52, 0, 1.52, 1.52, 1.52, 1.52, 1.52]);
  });

  it("is met by a wide camera that looks down enough, and not by a narrow one", () => {
    const wide = rearView(AT({}), SURE, AROUND);
    expect(wide.objects.filter((o) => o.verdict !== "meets")).toEqual([]);
    expect(wide.field).toBe("meets");
    const narrow = rearView(AT({}, 110), SURE, AROUND);
    expect(narrow.objects.filter((o) => o.verdict === "doesNot").map((o) => o.id)).toEqual(
      expect.arrayContaining(["F", "G"]),
    );
    expect(narrow.field).toBe("doesNot");
  });

  it("has the size that a small drawing gives: worked by hand", () => {
    // Straight lens of 90°, level, as high as half the cylinder: the picture is twice the distance wide, so 0.3 m in
    // 6.1 m are 0.3 / 12.2 of it; on 160 mm of glass 3.93 mm, at 700 mm 19.3 minutes of arc. The tangents of a cylinder
    // lie a little nearer than its middle: 0.03 % more.
    const camera: Camera = { ...AT({ yM: 0, zM: 0.4, pitchDeg: 0 }), lens: lensAcross("straight", 90) };
    const found = rearView(camera, null, AROUND);
    const byHand = Math.asin((0.16 * 0.3) / 12.2 / 0.7) * (180 / Math.PI) * 60;
    expect(byHand).toBeCloseTo(19.32, 2);
    const b = found.objects.find((o) => o.id === "B")?.arcmin ?? 0;
    expect(b / byHand).toBeGreaterThan(0.995);
    expect(b / byHand).toBeLessThan(1.002);
    expect(found.size).toBe("meets");
    expect(rearView(camera, null, { ...AROUND, glassWidthM: 0.04 }).size).toBe("doesNot");
  });

  it("says what cannot be shown: a figure that is missing, an edge that is too near", () => {
    const none = rearView(AT({ yM: -0.1 }), SURE, { ...AROUND, bumperHeightM: null, eyeToGlassM: null });
    expect(none.size).toBe("notShown");
    expect(none.missing).toEqual(["distance from the driver's eye to the screen", "height of the bumper's edge"]);
    // Pitch at which the far cylinders just touch the upper edge: a degree of uncertainty decides.
    const up = [...Array(60)]
      .map((_, i) => 42 + i / 2)
      .find((p) => seenOf(AT({ pitchDeg: p }), "B", { widthM: null, bumperM: 0 }).seen < 1);
    expect(up).toBeDefined();
    const unsure = { ...SURE, pitchDeg: 1 };
    expect(rearView(AT({ pitchDeg: (up ?? 0) - 0.2 }), unsure, AROUND).objects.find((o) => o.id === "B")?.verdict).toBe(
      "notShown",
    );
  });

  it("knows what a bumper hides from a camera behind it", () => {
    // Camera 0.9 m high, 0.3 m behind the edge of a bumper of 0.6 m: over the edge the line of sight falls 1 m in 1 m,
    // so the ground is seen from 0.6 m on.
    const camera = AT({ yM: -0.3, zM: 0.9, pitchDeg: 50 });
    const rows = seenRows(camera, { bumper: { heightM: 0.6, widthM: 1.72 }, cellM: 0.02 });
    expect(blindBefore(rows)).toBeCloseTo(0.61, 2);
    expect(blindBefore(seenRows(camera, { cellM: 0.02 }))).toBeLessThan(0.05);
    // Half a metre over the ground more of it is hidden.
    expect(blindBefore(seenRows(AT({ pitchDeg: 20 }, 110), { heightM: 0, cellM: 0.02 }))).toBeGreaterThan(
      blindBefore(seenRows(AT({ pitchDeg: 30 }, 110), { heightM: 0, cellM: 0.02 })) ?? 9,
    );
  });

  it("is in time, too late, or too near to two seconds to say", () => {
    expect(responseTime({ by: "stopwatch", seconds: 1.6 }).verdict).toBe("meets");
    expect(responseTime({ by: "stopwatch", seconds: 1.9 }).verdict).toBe("notShown");
    expect(responseTime({ by: "stopwatch", seconds: 2.4 }).verdict).toBe("doesNot");
    expect(responseTime({ by: "frames", frames: 57, perSecond: 30 })).toMatchObject({ seconds: 1.9, verdict: "meets" });
    expect(responseTime({ by: "frames", frames: 60, perSecond: 30 }).verdict).toBe("notShown");
    expect(responseTime({ by: "frames", frames: 63, perSecond: 30 }).verdict).toBe("doesNot");
  });
});

describe("the picture as lines", () => {
  it("stays on the glass, and a drag moves what is under the finger with it", () => {
    const camera = AT({}, 140);
    const pieces = groundGrid().flatMap((g) => drawn(camera, g.line));
    expect(pieces.length).toBeGreaterThan(10);
    for (const { u, v } of pieces.flat())
      expect(Math.max(Math.abs(u - 0.5), Math.abs(v - 0.5))).toBeLessThanOrEqual(0.7);
    for (const mirrored of [true, false]) {
      const one = { ...camera, mirrored };
      const [before, after] = [one, dragged(one, { u: 0.5, v: 0.5 }, { u: 0.6, v: 0.55 })].map(
        (c) =>
          drawn(c, [
            { x: 0, y: 1.05, z: 0 },
            { x: 0.001, y: 1.05, z: 0 },
          ])[0]?.[0],
      );
      expect((after?.u ?? 0) - (before?.u ?? 0)).toBeCloseTo(0.1, 1);
      expect((after?.v ?? 0) - (before?.v ?? 0)).toBeCloseTo(0.05, 1);
    }
  });
});
