import { describe, expect, it } from "vitest";
import { shippedLibrary } from "./library";
import { gapsOf, tryDocument } from "./try-document";

const library = shippedLibrary();
const car = library.flatMap((p) => (p.document === "car" && p.id === "velmora-corrie-19" ? [p] : []))[0] ?? null;
const variant =
  library.flatMap((p) => (p.document === "variant" && p.id === "velmora-corrie-19-r2" ? [p] : []))[0] ?? null;
const kit = library.find((p) => p.id === "orvanto-om8");
if (kit?.document !== "kit") throw new Error("the shipped library lacks the kit that is tried here");

describe("a document as it stands", () => {
  it("is sound, does something and counts what it has", () => {
    const check = tryDocument(kit, car, variant);
    expect(check.problem).toBeNull();
    expect(check.facts?.parts.length).toBe(kit.parts.length);
    expect(check.graph).not.toBeNull();
  });

  it("with something wrong, says where and what to do, draws nothing and leaves nothing open", () => {
    const [first, ...rest] = kit.plug;
    const broken = { ...kit, plug: [{ ...first, a: "module.nowhere" }, ...rest] };
    const check = tryDocument(broken, car, variant);
    expect(check.problem?.where).not.toBe("");
    expect(check.problem?.remedy).not.toBe("");
    expect(check.graph).toBeNull();
    expect(gapsOf(broken, car, variant)).toEqual([]);
  });

  it.each([null, 7, "text", [], {}, { document: "kit" }, { archetype: "kit" }])("may be anything: %j", (anything) => {
    expect(tryDocument(anything, car, variant).problem).not.toBeNull();
    expect(gapsOf(anything, car, variant)).toEqual([]);
  });

  it("that is a map draws nothing", () => {
    const map = library.find((p) => p.document === "coding");
    expect(map).toBeDefined();
    expect(tryDocument(map, null, null)).toMatchObject({ problem: null, graph: null, lines: [] });
  });
});
