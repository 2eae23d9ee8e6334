import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { named } from "../../tests/support/jobs";
import type { Choices } from "../model/compose";
import { widerWays } from "./try-first";

const library = shippedLibrary();
const ways = (car: string, variant: string, kit: string, choices: Choices) =>
  widerWays(named(car, variant, kit), { givenUp: [], car: { firmware: "" } }, choices);
const MARROW = ["hollinby-marrow-17", "hollinby-marrow-17-m1", "pellimar-inlay-5"] as const;
const CORRIE = ["velmora-corrie-19", "velmora-corrie-19-r2", "orvanto-om8"] as const;

describe("what is tried first", () => {
  it("opens the console for the voice only where it is not heard at the radio's plug", () => {
    const nav = library.find((p) => p.document === "kit" && p.choices.some((c) => c.id === "microphone"));
    const found = library.flatMap((v) => {
      const car = library.find((p) => p.document === "car" && v.id.startsWith(`${p.id}-`));
      if (v.document !== "variant" || car?.document !== "car" || nav?.document !== "kit") return [];
      if (!car.parts.some((p) => p.id === "handsFreeModule")) return [];
      const found = ways(car.id, v.id, nav.id, { microphone: "plug" }).filter((w) => w.choice === "microphone");
      return found.length > 0 ? [found] : [];
    });
    expect(found.length).toBeGreaterThan(0);
    for (const [way] of found) {
      expect(way).toMatchObject({ option: "branch", price: 24, functions: [{ id: "navigationVoice" }] });
      // The console comes off with this kit anyway; its own minutes beyond the lead at the plug are left.
      expect(way?.minutes).toBeCloseTo(24, 0);
    }
  });

  it("leads the microphone further from the fan only where it is badly heard, the nearest better place first", () => {
    const [way, ...rest] = ways(...MARROW, { micPlace: "vent" });
    expect(rest).toEqual([]);
    expect(way).toMatchObject({ choice: "micPlace", first: "Behind a vent", price: 0 });
    expect(way?.functions.map((f) => f.id)).toEqual(["assistant"]);
    expect(way?.opens.length).toBeGreaterThan(0);
    expect(way?.words).toMatch(/^Voice assistant: tried with “Behind a vent” first\. Only if that fails: “/);
    expect(way?.minutes).toBeGreaterThan(0);
  });

  it("names nothing where the widest way is taken, or where another way gives what the first does not", () => {
    expect(ways(...CORRIE, {})).toEqual([]);
    expect(ways(...CORRIE, { trying: "loose", battery: "off" })).toEqual([]);
  });
});
