import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { ComposeError } from "../model/errors";
import { tryOut } from "./try-out";

const library = shippedLibrary();
const car = library.flatMap((p) => (p.document === "car" && p.id === "velmora-corrie-19" ? [p] : []))[0];
const variant = library.flatMap((p) => (p.document === "variant" && p.id === "velmora-corrie-19-r2" ? [p] : []))[0];
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const kit = kits.find((k) => k.id === "orvanto-om8");
if (!car || !variant || !kit) throw new Error("the shipped library lacks what is tried here");

describe("a document that is tried", () => {
  it("as a kit on a car, says what it gives and draws what it brings heavy", () => {
    const { verdict, lines, graph } = tryOut(kit, car, variant);
    expect(verdict?.level).not.toBe("impossible");
    expect(lines.filter((l) => l.verdict === "gained").map((l) => l.functionId)).toContain("phonePicture");
    const heavy = graph.boxes.filter((b) => b.ofKit).map((b) => b.id);
    expect(heavy).toEqual(expect.arrayContaining(["module"]));
    expect(graph.boxes.length).toBeGreaterThan(heavy.length);
  });

  it("as a kit without a car, is drawn alone and promises nothing", () => {
    const { verdict, lines, graph } = tryOut(kit, null, null);
    expect(verdict).toBeNull();
    expect(lines).toEqual([]);
    expect(graph.boxes.length).toBeGreaterThan(0);
    expect(graph.boxes.every((b) => b.ofKit)).toBe(true);
  });

  it("as a radio in its car, works as the car was built; alone, it has no car to work in", () => {
    const inCar = tryOut(variant, car, null);
    expect(inCar.lines.length).toBeGreaterThan(0);
    expect(inCar.lines.filter((l) => l.verdict === "never").map((l) => l.name)).toEqual([]);
    const alone = tryOut(variant, null, null);
    expect(alone.graph.boxes.length).toBeLessThan(inCar.graph.boxes.length);
    expect(alone.lines.filter((l) => l.verdict === "kept").length).toBeLessThan(inCar.lines.length);
  });

  it("as a car alone, is drawn without what only a radio closes", () => {
    const { graph, verdict } = tryOut(car, null, null);
    expect(verdict).toBeNull();
    const parts = new Set(car.parts.map((p) => p.id));
    expect(graph.lines.length).toBeGreaterThan(0);
    for (const line of graph.lines) expect([parts.has(line.from), parts.has(line.to)]).toEqual([true, true]);
  });

  it("is refused where it does not go with the car", () => {
    const foreign = kits.find((k) => k.fits.length > 0 && !k.id.includes("orvanto") && throws(k));
    expect(foreign).toBeDefined();
    if (foreign) expect(() => tryOut(foreign, car, variant)).toThrow(ComposeError);
  });
});

function throws(k: (typeof kits)[number]): boolean {
  if (!car || !variant) return false;
  try {
    tryOut(k, car, variant);
    return false;
  } catch {
    return true;
  }
}
