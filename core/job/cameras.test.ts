import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { cameraPhoto, PHOTO_SCREEN } from "../../sim/camera-photo";
import { seededRandom } from "../../sim/random";
import { jobOf, plugged, press, refusalOf } from "../../tests/support/jobs";
import { normals, sighted } from "../../tests/support/sighting";
import type { Camera } from "../camera/pose";
import { tapePlan } from "../camera/tape-plan";
import type { Command } from "../log/entry";
import { cameraStands, camerasOf, steeredOf, wantedOf } from "./cameras";
import { certificateOf } from "./certificate";
import type { Job } from "./job";
import { handoverReport } from "./report";

const NOW = "2026-11-27T09:00:00Z";
const fresh = plugged(jobOf(demoDocuments()));

function cameraOf(job: Job, id: string) {
  const camera = camerasOf(job.plan).find((c) => c.id === id);
  if (!camera) throw new Error(`no camera ${id}`);
  return {
    camera,
    wanted: wantedOf(job.plan, job.state, camera).camera,
    stands: cameraStands(job.plan, job.state, camera),
  };
}

/** The rear camera seen as it hangs, with a hand of about a pixel. */
function seen(real: Camera, wanted: Camera): Command {
  const random = seededRandom(9);
  const sighting = sighted(real, tapePlan(wanted, "back"), PHOTO_SCREEN, normals(random));
  return { kind: "prove.sight", data: { camera: "rearCamera", sighting } };
}

describe("the cameras of a job", () => {
  it("come from the documents, with what they say of lens and place", () => {
    expect(camerasOf(fresh.plan)).toEqual([
      { id: "rearCamera", name: "Rear camera", looks: "back", glass: "screen" },
      { id: "frontCamera", name: "Front camera", looks: "ahead", glass: "screen" },
    ]);
    const { wanted } = cameraOf(fresh, "rearCamera");
    expect(wanted).toMatchObject({ mirrored: true, pose: { zM: 0.93, yM: -0.06, pitchDeg: 38 } });
    // The leaflet of the front camera gives its lens and no height: what is only usual is told as that.
    const front = camerasOf(fresh.plan)[1];
    expect(front && wantedOf(fresh.plan, fresh.state, front)).toMatchObject({
      usual: ["cameraHeightMm", "cameraBackMm", "cameraPitchDeg"],
      placed: false,
    });
  });

  it("are measured, turned and measured again, until the certificate has their figures", () => {
    const { wanted } = cameraOf(fresh, "rearCamera");
    const tilted = { ...wanted, pose: { ...wanted.pose, pitchDeg: 35.7, yawDeg: 1.5 } };
    const first = press(fresh, seen(tilted, wanted));
    const { stands } = cameraOf(first, "rearCamera");
    expect(stands.turns).toMatchObject([
      { axis: "pitchDeg", byDeg: expect.closeTo(2.3, 0), say: "turn" },
      { axis: "yawDeg", byDeg: expect.closeTo(-1.5, 0), say: "turn" },
      { axis: "rollDeg", say: "straight" },
    ]);
    const open = (job: Job) =>
      handoverReport(job, NOW)
        .openPoints.map((p) => p.text)
        .join("\n");
    expect(open(first)).toMatch(/Rear camera: to be turned down 2\.\d°, to the right of the car 1\.\d°/);
    const turned = press(first, { kind: "prove.turned", data: { camera: "rearCamera" } });
    expect(cameraOf(turned, "rearCamera").stands.measured).toBeNull();
    expect(refusalOf(turned, { kind: "prove.turned", data: { camera: "rearCamera" } }, NOW)).toMatch(
      /Nothing was measured/,
    );
    const done = press(turned, seen(wanted, wanted), {
      kind: "prove.reverseTime",
      data: { camera: "rearCamera", taken: { by: "frames", frames: 42, perSecond: 30 } },
    });
    expect(open(done)).not.toMatch(/to be turned/);
    const lines = certificateOf(done, NOW)
      .sections.find((s) => s.title === "Cameras")
      ?.lines.join("\n");
    expect(lines).toMatch(/Rear camera: measured by 1\d marks.* 93 cm over the ground, 38\.\d° ± 0\.\d° down/);
    expect(lines).toMatch(/was turned down 2\.\d°/);
    expect(lines).toMatch(/picture 1\.40 s after reverse/);
    expect(lines).toMatch(/time meets the rule/);
  });

  it("are refused for what is no measurement", () => {
    const { wanted } = cameraOf(fresh, "rearCamera");
    const command = seen(wanted, wanted);
    if (command.kind !== "prove.sight") throw new Error();
    const { sighting } = command.data;
    const few: Command = {
      ...command,
      data: { ...command.data, sighting: { ...sighting, marks: sighting.marks.slice(0, 3) } },
    };
    expect(refusalOf(fresh, few, NOW)).toMatch(/3 more marks are needed/);
    const [first, second, ...rest] = sighting.marks;
    if (!first || !second) throw new Error();
    const mixed = [{ ...first, tap: rest[6]?.tap ?? first.tap }, second, ...rest];
    expect(
      refusalOf(fresh, { ...command, data: { camera: "rearCamera", sighting: { ...sighting, marks: mixed } } }, NOW),
    ).toMatch(/No camera sees these marks/);
    expect(
      refusalOf(fresh, { kind: "prove.figure", data: { of: "car", figure: "wheelbaseMm", value: 0 } }, NOW),
    ).toMatch(/lies between 1500 and 6000 mm/);
    const lines: Command = {
      kind: "prove.lines",
      data: { camera: "rearCamera", corners: PHOTO_SCREEN, taps: { left: [], right: [] }, steeringWheelDeg: 0 },
    };
    expect(refusalOf(fresh, lines, NOW)).toMatch(/Measure the camera first/);
  });

  it("take figures that were measured on the car before those of the documents", () => {
    const rear = camerasOf(fresh.plan)[0];
    if (!rear) throw new Error();
    const made = press(fresh, { kind: "prove.figure", data: { of: "car", figure: "wheelbaseMm", value: 2600 } });
    expect(steeredOf(made.plan, made.state, rear, 146)).toMatchObject({
      wheelbaseM: 2.6,
      axleToBumperM: 0.69,
      // Turned to the right: to the left of a camera that looks back.
      roadWheelDeg: expect.closeTo(-10, 9),
    });
    const front = camerasOf(fresh.plan)[1];
    expect(front && steeredOf(fresh.plan, fresh.state, front, 146)).toMatchObject({
      axleToBumperM: expect.closeTo(3.31, 9),
      roadWheelDeg: expect.closeTo(10, 9),
    });
    const back = press(made, { kind: "prove.figure", data: { of: "car", figure: "wheelbaseMm", value: null } });
    expect(steeredOf(back.plan, back.state, rear, 0)?.wheelbaseM).toBe(2.49);
  });

  it("hang askew on a stand-in car until they are turned", () => {
    const photo = cameraPhoto(fresh.plan, fresh.state, "rearCamera", 5, 0) ?? "";
    expect(photo).toMatch(/<text[^>]*>12<\/text>/);
    expect(cameraPhoto(fresh.plan, fresh.state, "radio", 5, 0)).toBeNull();
  });
});
