import { describe, expect, it } from "vitest";
import { buildLeaflet, leaflet as leafletSchema } from "../../profiles/archetypes";
import { demoDocuments, shippedLeaflets } from "../../profiles/library";
import type { KitProfile } from "../model/profile";
import { changedPath, factsOf, whatFollows } from "./what-follows";

const shipped = shippedLeaflets().find((l) => l.id === "pellimar-inlay-6");
const facts = (answers: object) =>
  factsOf(buildLeaflet(leafletSchema.parse({ ...shipped, ...answers }), []) as KitProfile);

describe("what follows from another answer", () => {
  const before = facts({});

  it("is what the kit then has more, by name where it is little", () => {
    const camera = whatFollows(before, facts({ frontCamera: true, switches: { count: 6, front: 5, touch: 3 } }));
    expect(camera).toContain("One more part: Front camera.");
    expect(camera).toMatch(/more plug/);
    expect(camera).toContain("Front camera");
    expect(whatFollows(before, facts({ harness: false, keyReader: "key board" }))).toMatch(/part.* fewer/);
  });

  it("turns round when the answer is taken back", () => {
    const other = facts({ frontCamera: true, switches: { count: 6, front: 5, touch: 3 } });
    const [there, back] = [whatFollows(before, other), whatFollows(other, before)];
    expect(back).toContain("One part fewer: Front camera.");
    expect(there).not.toContain("fewer: Front camera");
  });

  it("is nothing for a word that is written otherwise", () => {
    expect(whatFollows(before, facts({ title: "Another name", price: 1 }))).toBe("");
    const { kit } = demoDocuments();
    expect(whatFollows(factsOf(kit), factsOf(kit))).toBe("");
  });
});

describe("where an answer was changed", () => {
  it("is the deepest place that differs, a list of plain values as one", () => {
    expect(changedPath({ a: 1, s: { t: 3, u: 4 } }, { a: 1, s: { t: 5, u: 4 } })).toBe("s.t");
    expect(changedPath({ list: ["a", "b"] }, { list: ["a"] })).toBe("list");
    expect(changedPath({ list: [{ a: 1 }] }, { list: [{ a: 1 }, { a: 2 }] })).toBe("list.1");
    expect(changedPath({ a: 1 }, { a: 1, b: true })).toBe("b");
    expect(changedPath({ a: { b: 1 } }, { a: 7 })).toBe("a");
    expect(changedPath({ a: [1] }, { a: [1] })).toBeNull();
  });
});
