import { beforeEach, describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import type { StripBody } from "../log/entry";
import { emptyJournal, noteStrip } from "../log/fold";
import type { StripJournal } from "../log/strip-journal";
import { carState } from "./car-state";
import { outGroups, smallParts, trays } from "./fasteners";
import { whereItBelongs } from "./left-over";

const plan = demoDocuments().car.stripPlan;
let journal: StripJournal;
const say = (body: StripBody) =>
  noteStrip(journal, body, { at: "2026-03-02T08:00:00Z", by: "Test", entry: `${Math.random()}` });
const tick = (direction: "in" | "back", ...steps: string[]) => {
  for (const step of steps) say({ kind: "strip.step", data: { step, direction } });
};
const count = (step: string, direction: "in" | "out", n: number) =>
  say({ kind: "strip.count", data: { step, group: 0, direction, count: n } });
const lie = () => trays(carState(plan, journal, "2026-03-02T08:00:00Z"), journal);

beforeEach(() => {
  journal = emptyJournal();
});

describe("trays", () => {
  it("say what lies where and flag one drive in two lengths", () => {
    tick("in", "radio-screws");
    expect(lie()).toMatchObject([{ tray: "B", count: 4, lengthMm: 16, mixed: false }]);
    tick("in", "screen-screws", "glovebox");
    expect(lie().map((t) => [t.tray, t.mixed])).toEqual([
      ["A", false],
      ["B", true],
      ["C", true],
    ]);
    tick("back", "radio-screws");
    expect(lie().map((t) => t.tray)).toEqual(["A", "C"]);
  });

  it("show what was counted instead of what the plan says", () => {
    tick("in", "radio-screws");
    count("radio-screws", "out", 3);
    expect(lie()[0]).toMatchObject({ count: 3, countedOut: 3 });
  });
});

describe("small parts", () => {
  it("are those told and those missing by count, once the step is back", () => {
    tick("in", "radio-screws");
    count("radio-screws", "out", 4);
    expect(smallParts(plan, journal)).toEqual([]);
    count("radio-screws", "in", 3);
    tick("back", "radio-screws");
    say({ kind: "strip.small", data: { step: "vents", what: "clip of the vent panel", state: "broken", count: 2 } });
    expect(smallParts(plan, journal)).toMatchObject([
      { what: "clip of the vent panel", state: "broken", count: 2, found: "told" },
      { what: "T20 screw 16 mm, Radio screws out", state: "lost", count: 1, found: "counted" },
    ]);
  });

  it("are not missing when nobody counted, or when the screw was found and counted again", () => {
    tick("in", "radio-screws");
    tick("back", "radio-screws");
    expect(smallParts(plan, journal)).toEqual([]);
    count("radio-screws", "in", 3);
    expect(smallParts(plan, journal)).toHaveLength(1);
    count("radio-screws", "in", 4);
    expect(smallParts(plan, journal)).toEqual([]);
  });
});

describe("one left over", () => {
  beforeEach(() => {
    tick("in", "radio-screws", "screen-screws", "shroud", "glovebox");
    tick("back", "glovebox", "shroud", "screen-screws", "radio-screws");
  });

  it("belongs where its kind and length fit, the nearest length first", () => {
    const found = whereItBelongs(outGroups(plan, journal), { kind: "T20 screw", lengthMm: 17 });
    expect(found[0]).toMatchObject({ step: "radio-screws" });
    expect(found.map((f) => f.step)).not.toContain("glovebox");
    // Places under half a percent are not told.
    expect(found.reduce((n, f) => n + f.likely, 0)).toBeGreaterThan(0.99);
  });

  it("belongs first where fewer went in than came out", () => {
    count("shroud", "out", 3);
    count("shroud", "in", 2);
    const [first] = whereItBelongs(outGroups(plan, journal), { kind: "T20 screw", lengthMm: null });
    expect(first).toMatchObject({ step: "shroud", reasons: ["3 came out, 2 went in"] });
    expect(first?.likely).toBeGreaterThan(0.7);
  });

  it("hardly belongs where as many went in as came out", () => {
    count("radio-screws", "out", 4);
    count("radio-screws", "in", 4);
    const found = whereItBelongs(outGroups(plan, journal), { kind: "T20 screw", lengthMm: null });
    expect(found.at(-1)?.step).toBe("radio-screws");
  });

  it("tells how long it takes to look", () => {
    const [radio] = whereItBelongs(outGroups(plan, journal), { kind: "T20 screw", lengthMm: 16 });
    // Console, vents and the screws themselves have to come off again: 3 + 4 + 4 minutes.
    expect(radio?.minutes).toBe(11);
  });

  it("finds nothing for a kind that was never out", () => {
    expect(whereItBelongs(outGroups(plan, journal), { kind: "M6 bolt", lengthMm: 30 })).toEqual([]);
  });
});
