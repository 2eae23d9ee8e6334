import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { jobOf, plugged, press, refusalOf } from "../../tests/support/jobs";
import { certificateOf } from "../job/certificate";
import { handoverReport } from "../job/report";
import { usesOf } from "../job/uses";
import { CoreError } from "../model/errors";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import { keyTable } from "./key-table";

const NOW = "2026-11-27T09:00:00Z";
const fresh = jobOf(demoDocuments());
const shown = fresh.plan.tests.find((t) => t.fn.observe.some((o) => o.where.picture === "phone"))?.situation ?? null;
const table = keyTable(fresh.plan.fitted, fresh.plan.settings, shown);
const does = (key: string, hold: string, mode: string) =>
  table.find((u) => u.key === key && u.hold === hold && u.mode === mode)?.does ?? [];

/** They go together: a plan can be made of them. */
function fits(car: CarProfile, variant: VariantProfile, kit: KitProfile): boolean {
  try {
    return jobOf({ car, variant, kit }).plan.tests.length > 0;
  } catch (error) {
    if (error instanceof CoreError) return false;
    throw error;
  }
}

describe("the key table", () => {
  it("has what each key does by the model, in both pictures", () => {
    expect(does("next", "short", "phone")).toEqual(["Next-track wheel key"]);
    expect(does("next", "short", "factory")).toEqual([]);
    expect(does("back", "long", "factory")).toEqual(["changes to the phone picture"]);
    expect(does("back", "short", "factory")).toEqual([]);
    // What the law asks for is a test of its own, and touch is measured by itself.
    expect(table.filter((u) => u.key === "hazard" || u.key === "screen")).toEqual([]);
  });

  it("names a key that means two things at once", () => {
    const { fitted, settings } = fresh.plan;
    const [toggle] = fitted.actions;
    if (!toggle) throw new Error("no action");
    const both = { ...fitted, actions: [{ ...toggle, press: "volumeUp" }] };
    const use = keyTable(both, settings, shown).find(
      (u) => u.key === "volumeUp" && u.hold === "long" && u.mode === "factory",
    );
    expect(use?.does).toEqual(["Wheel volume keys", "changes to the phone picture"]);
  });

  it("is there for every kit and radio, each use once, and each with something to do", () => {
    const library = shippedLibrary();
    let [planned, withKnob] = [0, 0];
    for (const variant of library) {
      const car = library.find((p) => variant.document === "variant" && p.id === variant.car);
      if (variant.document !== "variant" || car?.document !== "car") continue;
      for (const kit of library) {
        if (kit.document !== "kit" || !fits(car, variant, kit)) continue;
        const uses = usesOf(jobOf({ car, variant, kit }).plan);
        planned++;
        expect(new Set(uses.map((u) => u.id)).size).toBe(uses.length);
        for (const u of uses) expect(u.must.length).toBeGreaterThan(0);
        if (uses.some((u) => u.id.startsWith("knob/"))) withKnob++;
      }
    }
    expect(planned).toBeGreaterThan(20);
    expect(withKnob).toBeGreaterThan(5);
  });

  it("is answered by a tap each: what is otherwise stands among the open points", () => {
    const tried = press(
      plugged(fresh),
      { kind: "prove.use", data: { use: "next/short/phone", works: true } },
      { kind: "prove.use", data: { use: "clock/phone", works: false } },
    );
    const open = handoverReport(tried, NOW)
      .openPoints.map((p) => p.text)
      .join("\n");
    expect(open).toMatch(/Clock and outside temperature, in the phone picture: not as it must be/);
    const lines = certificateOf(tried, NOW).sections.find((s) => s.title === "Keys and signs of the bus")?.lines;
    expect(lines).toEqual([
      "Keys and knob: 1 of 1 tried do what they must.",
      "Clock, lighting, chimes: 0 of 1 tried do what they must.",
    ]);
    expect(refusalOf(fresh, { kind: "prove.use", data: { use: "fly/short/phone", works: true } }, NOW)).toMatch(
      /no key or sign/,
    );
  });
});
