import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { allShortest } from "../../tests/support/floyd-warshall";
import type { RunSegment } from "../model/profile";
import { materialFor, wrapTapeM } from "./material";
import { RunError, shortestRun } from "./run";
import { checkLength } from "./slack";

const segment = (from: string, to: string, lengthM: number, more: Partial<RunSegment> = {}): RunSegment => ({
  id: `${from}-${to}-${lengthM}`,
  from,
  to,
  lengthM,
  ...more,
});
const CAR = [
  segment("radio shaft", "glovebox space", 0.55, { zone: "sharp" }),
  segment("radio shaft", "knee space", 0.7),
  segment("knee space", "A-pillar", 0.6),
  segment("A-pillar", "headlining edge", 0.85, { zone: "airbag" }),
  segment("A-pillar", "headlining edge", 1.05, { say: "behind the airbag" }),
  segment("knee space", "sill", 0.5),
  segment("sill", "tailgate", 3.4, { zone: "moving", grommet: true }),
];

describe("the way of a lead", () => {
  it("is the shortest allowed one, and never across an airbag", () => {
    const run = shortestRun(CAR, { from: "radio shaft", to: "headlining edge" });
    expect(run.lengthM).toBeCloseTo(0.7 + 0.6 + 1.05, 9);
    expect(run.segments.at(-1)?.say).toBe("behind the airbag");
  });

  it("keeps optical leads from sharp edges and tight bends", () => {
    const ways = [...CAR, segment("radio shaft", "glovebox space", 0.9)];
    expect(shortestRun(ways, { from: "radio shaft", to: "glovebox space" }).lengthM).toBe(0.55);
    expect(shortestRun(ways, { from: "radio shaft", to: "glovebox space", kind: "optical" }).lengthM).toBe(0.9);
    const tight = [segment("a", "b", 0.2, { bendRadiusMm: 15 }), segment("a", "b", 0.7)];
    expect(shortestRun(tight, { from: "a", to: "b", kind: "optical" }).lengthM).toBe(0.7);
  });

  it("names the place that is missing, and that no allowed way is left", () => {
    expect(() => shortestRun(CAR, { from: "radio shaft", to: "moon" })).toThrow(/at “moon”/);
    const only = [segment("a", "b", 1, { zone: "airbag" })];
    expect(() => shortestRun(only, { from: "a", to: "b" })).toThrow(RunError);
    expect(() => shortestRun(only, { from: "a", to: "b" })).toThrow(/the way behind it/);
  });

  it("is as long as the algorithm of Floyd finds it", () => {
    const places = fc.integer({ min: 0, max: 7 });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(places, places, fc.double({ min: 0.05, max: 4, noNaN: true }), fc.boolean()), {
          minLength: 4,
          maxLength: 24,
        }),
        (edges) => {
          const segments = edges
            .filter(([a, b]) => a !== b)
            .map(([a, b, l, airbag], i) => ({
              ...segment(`${a}`, `${b}`, l, airbag && i % 3 === 0 ? { zone: "airbag" as const } : {}),
              id: `s${i}`,
            }));
          const known = new Set(segments.flatMap((s) => [s.from, s.to]));
          if (!known.has("0") || !known.has("1")) return;
          const shortest = allShortest(
            8,
            segments
              .filter((s) => s.zone !== "airbag")
              .flatMap(({ from, to, lengthM: length }) => [
                { from: Number(from), to: Number(to), length },
                { from: Number(to), to: Number(from), length },
              ]),
          );
          const lengthM = shortest(0, 1);
          if (lengthM === Number.POSITIVE_INFINITY)
            expect(() => shortestRun(segments, { from: "0", to: "1" })).toThrow(RunError);
          else expect(shortestRun(segments, { from: "0", to: "1" }).lengthM).toBeCloseTo(lengthM, 9);
        },
      ),
      { numRuns: 200 },
    );
  });
});

describe("the length of a lead", () => {
  const lead = { part: "usb", from: "radio shaft", to: "glovebox space" };

  it("is its way with slack, loops and drip loop, each told", () => {
    const camera = checkLength(CAR, { part: "cam", from: "radio shaft", to: "tailgate", service: ["sill"] }, 6);
    expect(camera.lines.map((l) => [l.what, l.lengthM])).toEqual([
      ["radio shaft – knee space", 0.7],
      ["knee space – sill", 0.5],
      ["sill – tailgate", 3.4],
      ["Slack at both plugs", 0.2],
      ["Service loop at sill", 0.15],
      ["Drip loop", 0.1],
    ]);
    expect(camera.neededM).toBeCloseTo(5.05, 9);
    expect(camera).toMatchObject({ verdict: "fits", say: "Fits; coil 95 cm at radio shaft, tied and not rattling." });
    expect(camera.minds[0]).toContain("moves");
  });

  it("says by how much it is short, fits to the centimetre, or is not known", () => {
    expect(checkLength(CAR, lead, 0.6)).toMatchObject({ verdict: "short", say: expect.stringContaining("by 15 cm") });
    expect(checkLength(CAR, lead, 0.75)).toMatchObject({ verdict: "fits", say: "Fits." });
    expect(checkLength(CAR, lead, null)).toMatchObject({ verdict: "unknown", say: expect.stringContaining("75 cm") });
  });

  it("reminds of twisting and of the fibre's radius", () => {
    const ways = [segment("a", "b", 1)];
    expect(checkLength(ways, { part: "x", from: "a", to: "b", kind: "twisted" }, 2).minds[0]).toMatch(/Twisted/);
    expect(checkLength(ways, { part: "x", from: "a", to: "b", kind: "optical" }, 2).minds[0]).toMatch(/25 mm radius/);
  });
});

describe("small material", () => {
  it("wraps by the geometry of a helix", () => {
    // One turn of a 20 mm tape without overlap on a bundle of 10 mm: the slope of a right triangle.
    expect(wrapTapeM(0.02, 10, 20, 0)).toBeCloseTo(Math.hypot(Math.PI * 10, 20) / 1000, 12);
    expect(wrapTapeM(1, 6, 19, 0.5)).toBeGreaterThan(2 * wrapTapeM(1, 6, 19, 0) * 0.7);
    expect(wrapTapeM(0, 6, 19, 0.5)).toBe(0);
  });

  it("ties leads on one way together and counts coils", () => {
    const a = checkLength(CAR, { part: "a", from: "radio shaft", to: "glovebox space" }, 0.75);
    const b = checkLength(CAR, { part: "b", from: "glovebox space", to: "radio shaft" }, 1.5);
    const ties = (list: (typeof a)[]) =>
      materialFor(list, { feedTap: false, module: false, tiedBack: [] }).find((m) => m.what === "Ties")?.amount;
    expect(ties([a])).toBe(Math.ceil(0.55 / 0.175));
    expect(ties([a, b])).toBe(Math.ceil(0.55 / 0.175) + 2);
    const more = materialFor([a], { feedTap: true, module: true, tiedBack: [] }).map((m) => m.what);
    // A lead that stays unused is wrapped over its length: the same helix, that much longer.
    const foam = (tiedBack: { say: string; lengthM: number }[]) =>
      materialFor([a], { feedTap: false, module: false, tiedBack }).find((m) => m.what === "Foam tape");
    const plain = foam([])?.amount ?? 0;
    expect((foam([{ say: "Old lead", lengthM: 0.3 }])?.amount ?? 0) - plain).toBeCloseTo(wrapTapeM(0.3, 6, 15, 0.5), 9);
    expect(foam([{ say: "Old lead", lengthM: 0.3 }])?.from).toMatch(/0.3 m of old lead/);
    expect(more).toEqual(expect.arrayContaining(["Fabric tape", "Double-sided tape", "Crimps", "Heat shrink"]));
  });
});
