import { describe, expect, it } from "vitest";
import { demoDocuments } from "../../profiles/library";
import { composeFitted, composeStock, kitPartIds, resolveChoices, sameEnds } from "./compose";
import { mergeDisturbances } from "./disturbance";
import { ComposeError } from "./errors";
import { singleFaults } from "./faults";

const { car, variant, kit } = demoDocuments();

describe("composition", () => {
  it("adds the variant to the car", () => {
    const stock = composeStock(car, variant);
    expect(stock.parts).toHaveLength(car.parts.length + variant.parts.length);
    expect(stock.defaultSituation.paired).toBe(true);
    expect(stock.actions).toEqual([]);
  });

  it("opens what the kit opens, adds what it brings, and leaves everything else", () => {
    const stock = composeStock(car, variant);
    const fitted = composeFitted(car, variant, kit);
    for (const u of kit.unplug) expect(fitted.links.some((l) => sameEnds(l, u))).toBe(false);
    for (const l of stock.links)
      expect(fitted.links.some((f) => f.id === l.id)).toBe(!kit.unplug.some((u) => sameEnds(l, u)));
    expect(fitted.parts).toHaveLength(stock.parts.length + kit.parts.length);
    expect([...kitPartIds(kit)].every((id) => fitted.parts.some((p) => p.id === id))).toBe(true);
  });

  it("follows the choices in parts, links, functions and circumstances", () => {
    const line = composeFitted(car, variant, kit, { soundPath: "line" });
    const own = composeFitted(car, variant, kit, { soundPath: "carBluetooth" });
    expect([line, own].map((s) => s.parts.some((p) => p.id === "audioLead"))).toEqual([true, false]);
    expect([line, own].map((s) => s.functions.some((f) => f.id === "phoneSound"))).toEqual([true, true]);
    expect([line, own].map((s) => s.defaultSituation.paired)).toEqual([false, true]);
    expect(resolveChoices(kit, {})).toEqual({ soundPath: "line" });
  });

  it("does not change the documents", () => {
    const before = JSON.stringify({ car, variant, kit });
    composeFitted(car, variant, kit);
    expect(JSON.stringify({ car, variant, kit })).toBe(before);
  });

  it("names the port that a car lacks", () => {
    const strange = structuredClone(kit);
    const [first] = strange.plug;
    if (first) first.b = "loom.dashboard";
    expect(() => composeFitted(car, variant, strange)).toThrow(ComposeError);
    expect(() => composeFitted(car, variant, strange)).toThrow(/connection “.+”.*no place for it/);
  });
});

describe("single faults", () => {
  const fitted = composeFitted(car, variant, kit);
  const touched = {
    parts: kitPartIds(kit),
    links: new Set(["k-in-module"]),
    bank: kit.switchBank,
    planned: { "module.sw2": "on" },
  };
  const faults = singleFaults(fitted, touched);
  const find = (id: string) => faults.find((f) => f.id === id);

  it("leave out paths through the air and the car's own loom", () => {
    expect(find("loose:k-phone-air")).toBeUndefined();
    expect(faults.some((f) => f.kind === "leadOpen" && f.parts.includes("loom"))).toBe(false);
  });

  it("weigh what was touched above what was not", () => {
    expect(find("loose:k-in-module")?.weight).toBeGreaterThan(find("loose:k-out-module")?.weight ?? 0);
    expect(find("dead:module")?.weight).toBeGreaterThan(find("dead:bodyComputer")?.weight ?? 0);
  });

  it("set each switch to the other value than planned and say how to mend it", () => {
    expect(find("setting:module.sw2=off")).toMatchObject({
      title: "Switch 2 stands off, not on",
      remedy: expect.stringContaining("set switch 2 to on"),
    });
    expect(find("setting:module.sw1=on")).toBeDefined();
    expect(find("setting:kitAntenna.place=on metal")?.title).toBe("Antenna place stands on metal, not on plastic");
  });

  it("exchange only plugs that fit in each other's place on one part", () => {
    const exchanged = faults.filter((f) => f.kind === "exchanged").map((f) => f.id);
    expect(exchanged.sort()).toEqual(["exchanged:k-audio-module+k-mic", "exchanged:k-in-module+k-out-module"]);
  });

  it("are merged into one disturbance that does all of them", () => {
    const merged = mergeDisturbances(
      [find("open:audioLead"), find("loose:k-mic"), find("dead:module"), find("setting:module.sw2=off")].map(
        (f) => f?.disturbance ?? {},
      ),
    );
    expect(Object.keys(merged.openJoins ?? {})).toEqual(["audioLead"]);
    expect(Object.keys(merged.openLinks ?? {})).toEqual(["k-mic"]);
    expect(Object.keys(merged.deadParts ?? {})).toEqual(["module"]);
    expect(merged.settings).toEqual({ "module.sw2": "off" });
  });
});
