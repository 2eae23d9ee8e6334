import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLeaflets } from "./library";
import { checkProfile, readLeaflet, readProfile } from "./read";
import { upgradeDocument } from "./upgrade";

/** A car as the release before wrote it: rituals as steps, one number of minutes, one group of fasteners. */
function earlierCar() {
  const { car } = demoDocuments();
  const { power: _, drawings: __, ...rest } = car;
  const step = (id: string, after: string[], more: object = {}) => ({
    id,
    title: id,
    detail: id,
    after,
    minutes: 4,
    ...more,
  });
  return {
    ...rest,
    stripPlan: {
      steps: [
        step("cover", []),
        step("brake", ["cover"], { sets: { parkingBrake: true } }),
        step("key-on", ["brake"], { sets: { key: "on" } }),
        step("selector-out", ["key-on"], { sets: { selector: "N" }, requires: { parkingBrake: true, key: "on" } }),
        step("console", ["selector-out"], {
          panel: "console panel",
          requires: { selector: ["N", "D"], parkingBrake: true },
          fasteners: { kind: "T20 screw", count: 2, tray: "A" },
        }),
        step("battery-off", ["console"], { sets: { battery: "isolated" }, requires: { key: "off" } }),
        step("vents", ["battery-off"], { panel: "vent panel", airbagZone: true, requires: { battery: "isolated" } }),
      ],
    },
  };
}

describe("a document of the release before", () => {
  it("is read: rituals leave the plan, what came after them moves up, figures take their new shape", () => {
    const car = checkProfile(JSON.parse(JSON.stringify(earlierCar())));
    if (car.document !== "car") throw new Error("no car");
    expect(car.stripPlan.steps.map((s) => [s.id, s.after])).toEqual([
      ["cover", []],
      ["console", ["cover"]],
      ["vents", ["console"]],
    ]);
    expect(car.stripPlan.steps[1]).toMatchObject({
      minutes: { low: 4, likely: 4, high: 4 },
      fasteners: [{ kind: "T20 screw", count: 2, tray: "A" }],
      requires: { selector: ["N", "D"] },
    });
  });

  it("comes out the same when it was read once", () => {
    const once = upgradeDocument(earlierCar());
    expect(upgradeDocument(once)).toBe(once);
  });

  it("is read under the names that its fields had", () => {
    const { car, variant, kit } = demoDocuments();
    const earlier = (value: unknown): unknown =>
      JSON.parse(
        JSON.stringify(value)
          .replaceAll('"likely":', '"usual":')
          .replaceAll('"defaultSituation":', '"usual":')
          .replaceAll('"default":', '"usual":')
          .replaceAll('"identifyingFeatures":', '"tells":')
          .replaceAll('"kind":"method"', '"kind":"school"'),
      );
    for (const document of [car, variant, kit]) {
      expect(earlier(document)).not.toEqual(document);
      expect(checkProfile(earlier(document))).toEqual(document);
    }
    const [leaflet] = shippedLeaflets();
    expect(earlier(leaflet)).not.toEqual(leaflet);
    expect(readLeaflet(JSON.stringify(earlier(leaflet)))).toEqual(leaflet);
  });

  it("is left alone when it is of today, of another kind, or wrong", () => {
    const { car, kit } = demoDocuments();
    for (const value of [car, kit, null, 7, { document: "car", stripPlan: { steps: "none" } }])
      expect(upgradeDocument(value)).toBe(value);
  });

  it("is still refused for what was wrong with it", () => {
    const car = earlierCar();
    (car.stripPlan.steps[4] as { minutes: number }).minutes = -3;
    expect(() => readProfile(JSON.stringify(car))).toThrow(/stripPlan.*console.*minutes/s);
  });
});
