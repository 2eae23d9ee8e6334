import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { resolveFit } from "../fit/resolve-fit";
import { composeFitted } from "./compose";
import { Model } from "./outcome";
import { settingsReach } from "./relevance";
import type { FunctionSpec } from "./types";

const { car, variant, kit } = demoDocuments();
const system = composeFitted(car, variant, kit);
const model = new Model(system);
const switches = kit.switchBank?.switches.map((s) => `module.${s}`) ?? [];
const reach = settingsReach(model.compiled, switches);
const relevantTo = (fn: FunctionSpec) => switches.filter((_, i) => reach(fn) & (1 << i));

describe("settings that can matter to a function", () => {
  it("are few, and none for what does not pass the module", () => {
    const of = (id: string) => {
      const fn = system.functions.find((f) => f.id === id);
      return fn ? relevantTo(fn) : [];
    };
    expect(of("hazard")).toEqual([]);
    expect(of("tunerSound")).not.toContain("module.sw2");
    expect(of("nextKey")).toEqual(["module.sw6"]);
    expect(of("phonePicture").length).toBeLessThan(switches.length);
  });

  it("decide alone: any two positions that agree on them give the same outcome", () => {
    const positions = fc.tuple(...switches.map(() => fc.constantFrom("on", "off")));
    fc.assert(
      fc.property(positions, positions, fc.nat(), (one, other, pick) => {
        const fn = system.functions[pick % system.functions.length];
        if (!fn) return;
        const relevant = new Set(relevantTo(fn));
        const first = Object.fromEntries(switches.map((s, i) => [s, one[i] ?? "off"]));
        const second = Object.fromEntries(switches.map((s, i) => [s, (relevant.has(s) ? one[i] : other[i]) ?? "off"]));
        for (const s of fn.situations)
          expect(model.try(fn, s.id, second).outcome.kind).toBe(model.try(fn, s.id, first).outcome.kind);
      }),
      { numRuns: 300 },
    );
  });

  it("give as many good positions as trying every function in every position", () => {
    const library = shippedLibrary();
    const kits = library.flatMap((p) => (p.document === "kit" && p.id === "brackwater-view" ? [p] : []));
    for (const k of kits) {
      const resolved = resolveFit({ car, variant, kit: k }, { frontCamera: "fitted" });
      const bank = k.switchBank;
      if (!bank || !resolved.switches?.settings) throw new Error("no bank solved");
      const plain = new Model(resolved.fitted);
      expect(resolved.switches.missing).toEqual([]);
      const wanted = resolved.fitted.functions;
      let good = 0;
      for (let mask = 0; mask < 2 ** bank.switches.length; mask++) {
        const position = Object.fromEntries(
          bank.switches.map((s, i) => [`${bank.part}.${s}`, mask & (1 << i) ? "on" : "off"]),
        );
        const works = wanted.every((f) =>
          f.situations.every((s) => plain.try(f, s.id, position).outcome.kind === "ok"),
        );
        if (works) good++;
      }
      expect(resolved.switches.solutions).toBe(good);
      expect(good).toBeGreaterThan(0);
    }
  });
});
