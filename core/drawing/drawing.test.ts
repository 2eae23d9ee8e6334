import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { planJob } from "../job/plan";
import { backOf, usualBack } from "./back";
import { dashOf, drawnDash, markDash } from "./dash";
import { bounds, box, corners, crossing, type Outline } from "./drawing";
import { lineOf, nearestPlace, speakerPlan } from "./plan";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });

describe("an outline", () => {
  it("crosses itself when two of its sides do, and a simple one does not", () => {
    expect(crossing(box(0, 0, 10, 10))).toBeNull();
    const bow: Outline = [
      [0, 0],
      [10, 10],
      [10, 0],
      [0, 10],
    ];
    expect(crossing(bow)).toEqual([0, 2]);
    // A star drawn in one go crosses; the same corners in order round it do not.
    const at = (turn: number): [number, number] => [
      50 + 40 * Math.cos((turn * 2 * Math.PI) / 5),
      50 + 40 * Math.sin((turn * 2 * Math.PI) / 5),
    ];
    expect(crossing([0, 2, 4, 1, 3].map(at))).not.toBeNull();
    expect(crossing([0, 1, 2, 3, 4].map(at))).toBeNull();
  });

  it("of every shipped drawing is simple and lies in its frame", () => {
    const cars = shippedLibrary().flatMap((p) => (p.document === "car" ? [p] : []));
    expect(cars.length).toBeGreaterThan(5);
    for (const { id, drawings } of cars) {
      const { dash, plan: above } = drawings ?? {};
      if (!dash || !above) throw new Error(`${id} has no drawings`);
      for (const { id: shape, outline } of dash.shapes) {
        const { x, y, width, height } = bounds(outline);
        expect([id, shape, crossing(outline)]).toEqual([id, shape, null]);
        expect([id, shape, x >= 0 && y >= 0 && x + width <= dash.width && y + height <= dash.height]).toEqual([
          id,
          shape,
          true,
        ]);
      }
      expect(crossing(above.body)).toBeNull();
    }
  });
});

describe("the dash", () => {
  const dash = dashOf(documents.car, documents.variant) ?? fail("no dash");

  it("is that of the car with the shapes of its radio", () => {
    const ids = dash.shapes.map((s) => s.id);
    expect(new Set(ids).size).toBe(ids.length);
    expect(ids).toEqual(expect.arrayContaining(["glovebox", "radio", "screen", "knob"]));
    expect(dashOf({}, documents.variant)).toBeNull();
  });

  it("is drawn by a page with the same corners", () => {
    const drawn = drawnDash(documents.car, documents.variant)?.shapes ?? [];
    expect(drawn.map((s) => [s.id, corners(s.points)])).toEqual(dash.shapes.map((s) => [s.id, s.outline]));
    expect(drawnDash({}, documents.variant)).toBeNull();
  });

  it("is turned over for a wheel on the right", () => {
    const wheel = (side: "left" | "right") => {
      const car = shippedLibrary().find((p) => p.document === "car" && p.driveSide === side);
      const found = car?.document === "car" ? car.drawings?.dash : undefined;
      const shape = found?.shapes.find((s) => s.what === "wheel");
      if (!found || !shape) throw new Error(side);
      const { x, width } = bounds(shape.outline);
      return (x + width / 2) / found.width;
    };
    expect(wheel("left")).toBeLessThan(0.5);
    expect(wheel("right")).toBeCloseTo(1 - wheel("left"), 6);
  });

  it("marks what is in hand before what is pointed at before what is off", () => {
    const state = (id: string, marks: Parameters<typeof markDash>[1]) =>
      markDash(dash, marks).find((m) => m.shape.id === id)?.state;
    expect(state("glovebox", {})).toBe("plain");
    expect(state("glovebox", { off: ["glovebox"] })).toBe("off");
    expect(state("glovebox", { off: ["glovebox"], at: ["glovebox"] })).toBe("at");
    expect(state("glovebox", { off: ["glovebox"], now: "glovebox" })).toBe("now");
    expect(state("screen", { at: ["screen"] })).toBe("at");
  });
});

describe("the side of the sockets", () => {
  it("has every socket of the part once, none over another, inside its frame, named or not in the document", () => {
    let seen = 0;
    for (const part of plan.fitted.parts) {
      const back = backOf(plan.fitted, part.id);
      if (!back) continue;
      seen++;
      expect(back.sockets.map((s) => s.port)).toEqual(
        part.ports.filter((p) => p.connector).map((p) => `${part.id}.${p.id}`),
      );
      for (const [i, a] of back.sockets.entries()) {
        expect([a.port, a.x >= 0 && a.x + a.width <= back.width && a.y + a.height <= back.height]).toEqual([
          a.port,
          true,
        ]);
        for (const b of back.sockets.slice(i + 1)) {
          const apart = a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y;
          expect([a.port, b.port, apart]).toEqual([a.port, b.port, true]);
        }
      }
    }
    expect(seen).toBeGreaterThan(5);
    expect(backOf(plan.fitted, "radio")?.guessed).toBe(false);
    const silent = { ...plan.fitted, parts: plan.fitted.parts.map((p) => ({ ...p, back: undefined })) };
    expect(backOf(silent, "module")?.guessed).toBe(true);
    // The usual drawing of a part is what is shown while its document is silent.
    const module = plan.fitted.parts.find((p) => p.id === "module");
    const drawn = module && usualBack(module);
    expect(drawn?.sockets.map((s) => `module.${s.port}`)).toEqual(backOf(silent, "module")?.sockets.map((s) => s.port));
    expect(backOf(plan.fitted, "nobody")).toBeNull();
  });
});

describe("the plan of the car", () => {
  const above = documents.car.drawings?.plan ?? fail("no plan");

  it("draws a lead through the places it passes, and nothing where it knows fewer than two of them", () => {
    const way = ["radio shaft", "glovebox space"];
    expect(lineOf(above, { id: "l", name: "lead", way })).toEqual(
      way.map((name) => above.places.find((p) => p.name === name)?.at),
    );
    expect(lineOf(above, { id: "l", name: "lead", way: ["radio shaft", "moon"] })).toBeNull();
  });

  it("gives what is dragged to the nearest place that may be taken", () => {
    const names = new Set(above.places.map((p) => p.name));
    for (const { name, at } of above.places) expect(nearestPlace(above, [at[0] + 3, at[1] - 3], names)).toBe(name);
    expect(nearestPlace(above, [0, 0], new Set())).toBeNull();
  });
});

function fail(why: string): never {
  throw new Error(why);
}

describe("the loudspeakers of a car from above", () => {
  const above = documents.car.drawings?.plan;

  it("stand inside the body that is drawn round them", () => {
    const drawn = above && speakerPlan(above);
    if (!drawn) throw new Error("the car has no loudspeakers drawn");
    const { x, y, width, height } = bounds(corners(drawn.body));
    expect(drawn.speakers.length).toBeGreaterThan(3);
    for (const { at } of drawn.speakers) {
      expect(at[0] > x && at[0] < x + width).toBe(true);
      expect(at[1] > y && at[1] < y + height).toBe(true);
    }
  });

  it("are not drawn where nobody said where they are", () => {
    expect(above && speakerPlan({ ...above, speakers: [] })).toBeNull();
  });
});
