import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { composeStock, resolveChoices } from "../model/compose";
import type { Choices } from "../model/kit-condition";
import type { KitCondition, KitProfile } from "../model/profile";
import { followsFrom } from "./follows";
import { forOtherKit, offerOf } from "./offer";

const library = shippedLibrary();
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const pairs = variants.flatMap((variant) => cars.filter((c) => c.id === variant.car).map((car) => ({ car, variant })));

/** A kit whose one need hangs on a condition. */
function needing(when: KitCondition): KitProfile {
  const [kit] = kits;
  if (!kit) throw new Error("an empty library");
  const options = [
    { id: "knob", label: "Knob", why: "" },
    { id: "keys", label: "Keys", why: "" },
  ];
  return {
    ...kit,
    parts: [],
    sets: [],
    choices: [{ id: "panel", label: "Panel", kind: "offer", default: "keys", options }],
    needs: [{ kind: "part", say: "the panel with knob", when }],
  };
}

describe("what follows from an option", () => {
  const { car, variant } = pairs[0] as (typeof pairs)[number];
  const stock = composeStock(car, variant);
  const withKeys = (yes: string) => ({
    ...stock,
    parts: stock.parts.map((p) => (p.id === "bodyComputer" ? { ...p, facts: { ...p.facts, wheelKeys: yes } } : p)),
  });
  const follows = (when: KitCondition, keys: string, option: string, chosen: Choices = {}) =>
    followsFrom({ car, kit: needing(when), stock: withKeys(keys) }, chosen, "panel", option);

  it("asks the car: without wheel keys the keys want a knob, with them they do not", () => {
    const when: KitCondition = {
      all: [{ choice: "panel", is: ["keys"] }, { not: { fact: "bodyComputer.wheelKeys", is: ["yes"] } }],
    };
    expect(follows(when, "no", "keys")).toEqual(["Needs the panel with knob"]);
    expect(follows(when, "yes", "keys")).toEqual([]);
    expect(follows(when, "no", "knob")).toEqual([]);
  });

  it("understands what is not chosen, however deep it stands", () => {
    const when: KitCondition = { not: { any: [{ not: { choice: "panel", is: ["knob"] } }] } };
    expect(follows(when, "yes", "knob")).toEqual(["Needs the panel with knob"]);
    expect(follows(when, "yes", "keys")).toEqual([]);
  });
});

describe("why a kit does not fit", () => {
  const state = forOtherKit({ car: { firmware: "" }, baseline: new Map(), givenUp: [], placed: new Map() });

  it("is told in words, never by an identifier of a document", () => {
    const texts = pairs.flatMap(({ car, variant }) =>
      kits.flatMap((kit) => {
        const { verdict } = offerOf({ car, variant, kit }, state, resolveChoices(kit, {}), []);
        return verdict.level === "impossible" ? [verdict.text] : [];
      }),
    );
    expect(texts.length).toBeGreaterThan(20);
    expect(texts.filter((t) => /\b[a-z]+[A-Za-z]*\.[a-z]\w*|\b[a-z]+[A-Z]\w+/.test(t))).toEqual([]);
  });
});
