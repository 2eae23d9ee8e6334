/** The way into a car with the steps that a kit brings. */
import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { emptyJournal } from "../log/fold";
import { composeStock } from "../model/compose";
import type { CarProfile, KitProfile, KitStep, VariantProfile } from "../model/profile";
import { stripBase } from "./base";
import { planRoute } from "./route";

const library = shippedLibrary();
const find = <T extends "car" | "variant" | "kit">(kind: T, id: string) => {
  const found = library.find((p) => p.document === kind && p.id === id);
  if (!found) throw new Error(id);
  return found as Extract<CarProfile | VariantProfile | KitProfile, { document: T }>;
};
const car = find("car", "hollinby-marrow-17");
const variant = find("variant", "hollinby-marrow-17-m1");
const kit = find("kit", "pellimar-inlay-5");
const stock = composeStock(car, variant);

const base = (steps: KitStep[] | undefined, chosen = {}) => stripBase({ car, kit: { ...kit, steps } }, stock, chosen);
const route = (steps: KitStep[] | undefined, chosen = {}) =>
  planRoute({ ...base(steps, chosen), measured: {} }, emptyJournal());
const bare: KitStep = {
  id: "own",
  title: "Own step",
  detail: "Done on the bench.",
  after: [],
  minutes: { low: 1, likely: 2, high: 3 },
};

describe("the steps of a kit", () => {
  it("come behind the step that opens the plug they name, and are wanted for their own sake", () => {
    const steps = route([{ ...bare, behind: "radio.main" }]).steps.map((s) => s.id);
    expect(steps.indexOf("own")).toBeGreaterThan(steps.indexOf("radio-out"));
    expect(route(undefined).steps.map((s) => s.id)).not.toContain("own");
  });

  it("come where nothing opens the plug by the step that reaches it, and anywhere when nothing does", () => {
    const comesAfter = (behind: string) => base([{ ...bare, behind }]).plan.steps.find((s) => s.id === "own")?.after;
    expect(comesAfter("loom.busTap")).toEqual(["knee-panel"]);
    expect(comesAfter("moon.plug")).toEqual([]);
  });

  it("open a plug in the place of the car's own step", () => {
    const opens = [{ a: "displayLead.radioEnd", b: "radio.video" }];
    const opening = (steps: KitStep[] | undefined) =>
      base(steps).plan.steps.flatMap((s) => (s.opens?.some((o) => o.b === "radio.video") ? [s.id] : []));
    expect(opening(undefined)).toEqual(["radio-out"]);
    expect(opening([{ ...bare, opens, behind: "radio.main" }])).toEqual(["own"]);
  });

  it("come behind the panel that hides their screws, unless it stands on them itself", () => {
    const screwed = (hiddenBehind: string, more: Partial<KitStep> = {}): KitStep => ({
      ...bare,
      fasteners: [{ kind: "T10 screw", count: 2, tray: "U1", hiddenBehind }],
      ...more,
    });
    const standsOn = (step: KitStep, id = "own") => base([step]).plan.steps.find((s) => s.id === id)?.after;
    expect(standsOn(screwed("Vent panel and console panel"))).toEqual(["console", "vents"]);
    // Its words are whole words, and a panel that nobody takes off in this car hides nothing.
    expect([standsOn(screwed("windscreen trim")), standsOn(screwed("moon"))]).toEqual([[], []]);
    const over: KitStep = { ...bare, id: "over", panel: "own cover", after: ["own"] };
    const both = base([screwed("own cover"), over]).plan.steps;
    expect(both.find((s) => s.id === "own")?.after).toEqual([]);
  });

  it("depend on choices", () => {
    const when = { choice: "closing", is: ["upperEarly"] };
    const ids = (chosen: Record<string, string>) => route([{ ...bare, when }], chosen).steps.map((s) => s.id);
    expect([ids({ closing: "upperEarly" }).includes("own"), ids({ closing: "proveFirst" }).includes("own")]).toEqual([
      true,
      false,
    ]);
  });
});

describe("the battery off before the first plug", () => {
  it("is asked of every step that opens one, but not where the key must be on", () => {
    const off = base(undefined, { battery: "off" }).plan.steps;
    for (const s of off.filter((x) => x.opens?.length))
      expect([s.id, s.requires?.battery]).toEqual([
        s.id,
        s.requires?.selector || s.requires?.key ? undefined : "isolated",
      ]);
    expect(off.some((s) => s.opens?.length)).toBe(true);
    const first = route(undefined, { battery: "off" });
    expect(first.unreached).toEqual([]);
  });
});
