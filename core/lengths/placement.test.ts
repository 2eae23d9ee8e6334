import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { planJob } from "../job/plan";
import { lengthsOf } from "./job";
import { movable, placement, settingsByPlace } from "./placement";
import { supplies } from "./stock";
import { lengthTable } from "./table";

const documents = demoDocuments();
const plan = planJob(documents, { choices: null });
const { car, kit } = documents;
const placed = (moved: Record<string, string>) => placement(kit, plan.applies, new Map(Object.entries(moved)));
const lengths = (moved: Record<string, string>) =>
  lengthsOf(car, kit, plan.fitted, plan.applies, new Map(Object.entries(moved)));
const needed = (moved: Record<string, string>, part: string) =>
  lengths(moved).leads.find((l) => l.lead.part === part)?.check?.neededM ?? Number.NaN;

describe("where the kit lies", () => {
  it("is what its profile says until somebody puts it elsewhere", () => {
    expect(placed({}).places.get("module")).toBe("glovebox space");
    expect(placed({ module: "knee space" }).places.get("module")).toBe("knee space");
  });

  it("takes the leads of a moved part with it, and their lengths", () => {
    const { leads } = placed({ module: "knee space" });
    expect(leads.find((l) => l.part === "videoInLead")).toMatchObject({ from: "radio shaft", to: "knee space" });
    expect(leads.find((l) => l.part === "kitMic")).toMatchObject({ from: "knee space", to: "column shroud" });
    // radio shaft to knee space is 0.70 m, to the glovebox space 0.55 m; slack is the same.
    expect(needed({ module: "knee space" }, "videoInLead") - needed({}, "videoInLead")).toBeCloseTo(0.15, 9);
    expect(needed({ usbLead: "glovebox space" }, "usbLead")).toBeLessThan(needed({}, "usbLead"));
  });

  it("moves boxes, microphones, antennas, cameras and the free end of the USB lead, and no lead between two plugs", () => {
    const ids = movable(plan.fitted, placed({})).map((p) => p.id);
    expect(ids).toEqual(expect.arrayContaining(["module", "kitMic", "kitAntenna", "usbLead", "frontCamera"]));
    expect(ids).not.toContain("videoInLead");
  });

  it("decides the settings that follow from the ground under a part", () => {
    expect(settingsByPlace(car, plan.fitted, placed({}))).toEqual({ "kitAntenna.place": "on plastic" });
    expect(settingsByPlace(car, plan.fitted, placed({ kitAntenna: "A-pillar" }))).toEqual({
      "kitAntenna.place": "on metal",
    });
    const unknown = { ...car, places: [] };
    expect(settingsByPlace(unknown, plan.fitted, placed({}))).toEqual({});
  });
});

describe("small material against box and shelf", () => {
  const material = [
    { what: "Ties", amount: 11.2, unit: "pieces" as const, from: "" },
    { what: "Foam tape", amount: 1.5, unit: "m" as const, from: "" },
    { what: "Fabric tape", amount: 3, unit: "m" as const, from: "" },
  ];
  const of = (box: string[], shelf: Record<string, number> | null) =>
    Object.fromEntries(supplies(material, box, shelf).map((s) => [s.what, s]));

  it("counts what a line of the box says, and takes a line without a number as enough", () => {
    const s = of(["Ties, 10 pieces", "Foam tape", "Foil, fabric tape coloured"], {});
    expect(s.Ties).toMatchObject({ needed: 12, inBox: 10, verdict: "short", missing: 2 });
    expect(s["Foam tape"]).toMatchObject({ inBox: 1.5, verdict: "box", missing: 0 });
    expect(s["Fabric tape"]).toMatchObject({ inBox: 0, verdict: "short", missing: 3 });
  });

  it("takes the rest from the shelf", () => {
    const s = of(["Ties, 10 pieces", "Foam tape, 0,5 m"], { Ties: 2, "Foam tape": 0.9, "Fabric tape": 25 });
    expect([s.Ties?.verdict, s["Foam tape"]?.verdict, s["Fabric tape"]?.verdict]).toEqual(["shelf", "short", "shelf"]);
    expect(s["Foam tape"]?.missing).toBeCloseTo(0.1, 9);
  });

  it("says what the box lacks, and nothing of a shelf that is not known", () => {
    const s = of(["Ties, 10 pieces", "Foam tape"], null);
    expect(s.Ties).toMatchObject({ onShelf: null, verdict: "unknown", missing: 2 });
    expect(s["Foam tape"]).toMatchObject({ onShelf: null, verdict: "box", missing: 0 });
  });
});

describe("the table of lengths", () => {
  it("has every lead and every material with its unit", () => {
    const computed = lengths({});
    const rows = lengthTable(computed);
    expect(rows).toHaveLength(computed.leads.length + computed.material.length);
    expect(rows.find((r) => r.what === "USB lead")).toMatchObject({
      unit: "m",
      verdict: "short",
      from: "glovebox space",
    });
    const ties = rows.find((r) => r.what === "Ties");
    expect(ties?.unit).toBe("pieces");
    expect(Number.isInteger(ties?.needed)).toBe(true);
  });
});
