/** What control units would store, on the shipped cars and on a made one. */
import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { figuresSchema } from "../../profiles/schema/figures";
import { composeStock } from "./compose";
import { figureWords } from "./figures";
import { predictedCodes } from "./monitors";
import { Model } from "./outcome";
import { DEFAULT_SITUATION, type Monitor, type Part, type System } from "./types";

const lamp: Part = {
  id: "unit",
  name: "Unit",
  type: "device",
  needs: [{ at: "main.1", say: "battery feed" }],
  settings: [{ id: "watch", label: "Watching", values: ["on", "off"], initial: "on" }],
  ports: [
    { id: "main", label: "plug", contacts: [{ id: "1", kind: "battery", direction: "in" }] },
    { id: "loop", label: "loop", contacts: [{ id: "1", kind: "trigger", direction: "in" }] },
  ],
};
const source: Part = {
  id: "battery",
  name: "Battery",
  type: "device",
  ports: [{ id: "posts", label: "posts", contacts: [{ id: "1", kind: "battery", direction: "out" }] }],
  sources: [{ id: "supply", at: ["posts.1"] }],
};

function system(monitor: Partial<Monitor>, linked = true): System {
  return {
    parts: [lamp, source],
    links: linked ? [{ id: "feed", a: "battery.posts", b: "unit.main" }] : [],
    functions: [],
    actions: [],
    assumed: [],
    monitors: [{ id: "m", by: "unit", code: "B1000", say: "Loop open", ...monitor }],
    defaultSituation: DEFAULT_SITUATION,
  };
}

const codes = (s: System, settings = {}) => predictedCodes(new Model(s), settings).map((c) => c.code);

describe("a monitor", () => {
  const watch = [{ at: "unit.loop.1", where: {} }];

  it("stores its code when what it watches does not arrive, and only while its unit works", () => {
    expect(codes(system({ watch }))).toEqual(["B1000"]);
    expect(codes(system({ watch }, false))).toEqual([]);
    expect(codes(system({ watch: [{ at: "unit.main.1", where: {} }] }))).toEqual([]);
  });

  it("stores it when a part is not fitted", () => {
    expect(codes(system({ fitted: ["tweeters"] }))).toEqual(["B1000"]);
    expect(codes(system({ fitted: ["battery"] }))).toEqual([]);
  });

  it("is quiet while a setting disarms it, by settings as by a disturbance", () => {
    const armed = { setting: "unit.watch", is: ["on"] };
    const s = system({ watch, armed });
    expect(codes(s)).toEqual(["B1000"]);
    expect(codes(s, { "unit.watch": "off" })).toEqual([]);
    const disarmed = new Model(s, { settings: { "unit.watch": "off" } });
    expect(predictedCodes(disarmed, { "unit.watch": "on" })).toEqual([]);
  });

  it("finds nothing on any shipped car as built", () => {
    const library = shippedLibrary();
    const radios = library.flatMap((p) => (p.document === "variant" ? [p] : []));
    let watched = 0;
    for (const variant of radios) {
      const car = library.find((p) => p.id === variant.car);
      if (car?.document !== "car") throw new Error(variant.car);
      const stock = composeStock(car, variant);
      watched += stock.monitors?.length ?? 0;
      expect([variant.id, predictedCodes(new Model(stock), {})]).toEqual([variant.id, []]);
    }
    expect(watched).toBeGreaterThan(0);
  });
});

describe("figures", () => {
  it("say value and unit in the order of their list, and refuse what cannot be", () => {
    expect(figureWords({ steeringRatio: 15.2, wheelbaseMm: 2580, lensDeg: 170 })).toEqual([
      "Wheelbase 2580 mm",
      "Steering ratio 15.2",
      "Angle of the lens across 170°",
    ]);
    expect(figuresSchema.safeParse({ wheelbaseMm: 2580 }).success).toBe(true);
    expect(figuresSchema.safeParse({ wheelbaseMm: 0 }).error?.issues[0]?.message).toMatch(
      /wheelbase is at least 1500 mm/,
    );
    expect(figuresSchema.safeParse({ wheelbase: 2580 }).success).toBe(false);
  });
});
