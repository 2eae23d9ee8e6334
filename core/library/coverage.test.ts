/** The coverage report: empty for the shipped documents or with a reason, and exact about what is taken out of them. */
import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { rankKits } from "../fit/rank";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import { carCoverage, variantCoverage } from "./car-coverage";
import { codingCoverage } from "./coding-coverage";
import { kitCoverage } from "./coverage";
import type { Gap } from "./gap";

const library = shippedLibrary();
const maps = library.flatMap((p) => (p.document === "coding" ? [p] : []));
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const radios = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));

function carOf(variant: VariantProfile): CarProfile {
  const car = cars.find((c) => c.id === variant.car);
  if (!car) throw new Error(variant.car);
  return car;
}

/** The radio on which a kit gives most. */
function bestRadio(kit: KitProfile): { car: CarProfile; variant: VariantProfile } {
  const all = radios.flatMap((variant) => {
    const [best] = rankKits({ car: carOf(variant), variant, kits: [kit], wishes: [], firmware: "" });
    return best && best.verdict.level !== "impossible" ? [{ variant, gained: best.gained.length }] : [];
  });
  all.sort((a, b) => b.gained - a.gained);
  if (!all[0]) throw new Error(`${kit.id} fits nothing`);
  return { car: carOf(all[0].variant), variant: all[0].variant };
}

const say = (gaps: readonly Gap[]) => gaps.map((g) => `${g.kind}: ${g.say}`);

/** What is open in the shipped kits and stays so, each with its reason. */
const KNOWN: Readonly<Record<string, RegExp[]>> = {
  // A factory camera that the law asks for leaves no place for an added one.
  "brackwater-view": [/^function: Added rear camera.*what the law asks for: Rear camera/, /Switch 3/, /Switch 5/],
  // On the ring one contact carries both channels: the right one alone is not missed.
  "orvanto-om8-ring": [
    /^function: Added rear camera/,
    /Line audio lead: conductor at module end, R line audio/,
    /Switch 3/,
  ],
  // These radios take no microphone; the harness passes it on all the same.
  "ostrel-talk-key": [/T-harness: conductor at car end, 11 microphone/],
  "ostrel-talk-button": [/T-harness: conductor at car end, 11 microphone/],
};

/** The phone sends its sound to the car itself: what the menu of the module says of it cannot be heard. */
const PAST_THE_MODULE = /^fault: Sound path stands/;

describe("the shipped documents", () => {
  it.each(kits.map((k) => [k.id, k] as const))("%s leaves nothing open, or says why", (id, kit) => {
    const gaps = say(kitCoverage({ ...bestRadio(kit), kit }));
    const known = KNOWN[id] ?? [];
    expect(gaps.filter((g) => !known.some((k) => k.test(g)))).toEqual([]);
    expect(known.filter((k) => !gaps.some((g) => k.test(g)))).toEqual([]);
  });

  it.each(radios.map((v) => [v.id, v] as const))("%s and its car leave nothing open", (_, variant) => {
    const car = carOf(variant);
    expect(say([...variantCoverage(car, variant), ...carCoverage(car, variant)])).toEqual([]);
  });
});

describe("what is taken out of a document", () => {
  const kit = kits.find((k) => k.id === "pellimar-inlay-5");
  if (!kit) throw new Error("no kit");
  const on = bestRadio(kit);
  const kitGaps = (changed: Partial<KitProfile>) => kitCoverage({ ...on, kit: { ...kit, ...changed } });

  it("a function: then the faults that only it shows are named", () => {
    const gaps = kitGaps({ functions: kit.functions.filter((f) => f.id !== "assistant") });
    expect(gaps.map((g) => g.say).join()).toMatch(/Added microphone.*no test would show it/);
    expect(new Set(gaps.map((g) => g.field))).toEqual(new Set(["functions"]));
  });

  it("a way through the module: then the function that needs it cannot be tested", () => {
    const parts = kit.parts.map((p) => ({ ...p, routes: p.routes?.filter((r) => r.id !== "voice") }));
    const gaps = kitGaps({ parts });
    expect(gaps.filter((g) => g.kind === "function").map((g) => g.say)).toEqual([
      expect.stringMatching(/^Voice assistant: it works in no situation/),
    ]);
  });

  it("a length, a run, a back, and the use of a setting", () => {
    const without = (id: string, change: object) => kit.parts.map((p) => (p.id === id ? { ...p, ...change } : p));
    expect(say(kitGaps({ parts: without("kitMic", { lengthM: undefined }) }))).toEqual([
      "lead: Added microphone: its length is not known.",
    ]);
    expect(say(kitGaps({ leads: kit.leads?.filter((l) => l.part !== "usbLead") }))).toEqual([
      "lead: USB lead: nobody has said where it runs.",
    ]);
    expect(say(kitGaps({ parts: without("module", { back: undefined }) }))).toEqual([
      "drawing: Interface board: where its sockets are is not drawn.",
    ]);
    const settings = [{ id: "colour", label: "Colour of the lamp", values: ["green", "red"], initial: "green" }];
    expect(say(kitGaps({ parts: without("kitMic", { settings }) }))).toEqual([
      expect.stringMatching(/^setting: Added microphone, Colour of the lamp/),
    ]);
  });

  it("a step of the way in: then a place, a plug and a drawing are missed", () => {
    const { car, variant } = on;
    const without = (id: string) => ({
      ...car,
      stripPlan: { ...car.stripPlan, steps: car.stripPlan.steps.filter((s) => s.id !== id) },
    });
    expect(say(kitCoverage({ car: without("headlining"), variant, kit }))).toEqual([
      "place: No step of the strip plan reaches headlining edge.",
    ]);
    expect(say(carCoverage(without("headlining"), variant))).toEqual([
      expect.stringMatching(/^plug: Car loom, microphone plug/),
      "place: headlining edge: leads run there and no step reaches it.",
    ]);
    const undrawn = {
      ...car,
      drawings: {},
      fusePanel: car.fusePanel?.map((f) => ({ ...f, at: undefined })),
    };
    expect(carCoverage(undrawn, variant).map((g) => g.field)).toEqual(["drawings", "drawings", "fusePanel"]);
  });

  it("nothing, on a radio that takes the kit only with another option than the usual one", () => {
    const ring = kits.find((k) => k.id === "orvanto-om8-ring");
    const variant = radios.find((v) => v.id === "kestrane-halden-14-k2");
    if (!ring || !variant) throw new Error("no ring car");
    const gaps = say(kitCoverage({ car: carOf(variant), variant, kit: ring }));
    // Without a line input the sound comes by Bluetooth; what is open is what is open on the other radio.
    expect(gaps.length).toBeGreaterThan(0);
    expect(gaps.filter((g) => !PAST_THE_MODULE.test(g) && !KNOWN[ring.id]?.some((k) => k.test(g)))).toEqual([]);
  });

  it("a car without its radio is asked only for what is its own", () => {
    expect(say(carCoverage(on.car, null))).toEqual([]);
  });
});

describe("what a coding map leaves open", () => {
  it("is said of every word with unknown bits and every unit without words, never of locked ones", () => {
    const [fjell] = maps;
    const says = fjell ? codingCoverage(fjell).map((g) => g.say) : [];
    expect(says).toContain("Air conditioning has no coded word");
    expect(says).toContain("Gateway, Buses: 20 of 24 bits are not known");
    expect(says).toContain("Instrument cluster, Menu: nothing ties it to the car");
    expect(says.filter((s) => s.startsWith("Airbag") || s.startsWith("Brake"))).toEqual([]);
  });
});
