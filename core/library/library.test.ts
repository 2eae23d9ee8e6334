import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { colourMeanings } from "./colours";
import { differences } from "./differences";

describe("differences of two versions", () => {
  const { kit } = demoDocuments();

  it("are none for equal documents and for the version alone", () => {
    expect(differences(kit, structuredClone(kit))).toEqual([]);
    expect(differences(kit, { ...kit, version: 9 })).toEqual([]);
  });

  it("match places by their name, so that a new one is one difference", () => {
    const places = [
      { name: "sill", surface: "metal" },
      { name: "vent space", surface: "plastic" },
    ];
    expect(differences({ places }, { places: [{ name: "boot", surface: "metal" }, ...places] })).toEqual([
      { path: "places › boot", change: "added", before: "", after: "boot" },
    ]);
    const [first, second] = places;
    expect(differences({ places }, { places: [{ ...first, surface: "plastic" }, second] })).toMatchObject([
      { path: "places › sill › surface", before: "metal", after: "plastic" },
    ]);
  });

  it("name the place by the names people know", () => {
    const changed = structuredClone(kit);
    changed.price = 455;
    const contact = changed.parts[0]?.ports[0]?.contacts[0];
    if (contact) contact.label = "steady feed";
    changed.box.push("Cable ties");
    changed.plug = changed.plug.filter((l) => l.id !== "k-camera");
    expect(differences(kit, changed)).toEqual([
      { path: "price", change: "changed", before: "420", after: "455" },
      {
        path: "parts › Interface module › ports › main plug › contacts › 1 › label",
        change: "changed",
        before: "battery feed",
        after: "steady feed",
      },
      { path: "plug › k-camera", change: "removed", before: "Front camera into its plug", after: "" },
      { path: "box › Cable ties", change: "added", before: "", after: "Cable ties" },
    ]);
  });

  it("show an inserted member as one difference", () => {
    const list = fc.uniqueArray(fc.string({ minLength: 1, maxLength: 8 }), { minLength: 1, maxLength: 8 });
    fc.assert(
      fc.property(list, fc.nat(), (items, at) => {
        const rows = items.map((id) => ({ id }));
        const place = at % (rows.length + 1);
        const added = [...rows.slice(0, place), { id: "something new" }, ...rows.slice(place)];
        expect(differences({ rows }, { rows: added })).toHaveLength(1);
      }),
    );
  });
});

describe("wire colours", () => {
  const kits = shippedLibrary().flatMap((p) => (p.document === "kit" ? [p] : []));

  it("warns where one colour has two meanings in two kits", () => {
    const purple = colourMeanings(kits).find((m) => m.base === "purple");
    expect(purple?.conflict).toBe(true);
    expect(new Set(purple?.uses.map((u) => u.job))).toEqual(new Set(["camera feed", "reverse trigger"]));
  });

  it("does not warn about one kit, or about a colour with one meaning", () => {
    const one = kits.filter((k) => k.id === "brackwater-view");
    expect(colourMeanings(one).every((m) => !m.conflict)).toBe(true);
    expect(colourMeanings(kits).find((m) => m.base === "green" && m.tracer === "white")?.conflict).toBe(false);
  });
});
