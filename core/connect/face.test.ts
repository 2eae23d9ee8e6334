import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { KIND_TAGS, SIGNAL_KINDS } from "../model/kinds";
import type { Port } from "../model/types";
import { contactRows, faceOf } from "./face";

const port = (ways: number, ids: string[], gender: "male" | "female" = "female", rows?: number): Port => ({
  id: "p",
  label: "plug",
  connector: { family: "X", ways, gender, ...(rows ? { rows } : {}) },
  contacts: ids.map((id) => ({ id, kind: "ground", direction: "wire" })),
});
const row = (face: ReturnType<typeof faceOf>, r: number) =>
  face?.cavities
    .filter((c) => c.row === r)
    .sort((a, b) => a.column - b.column)
    .map((c) => c.id);

describe("the face of a plug", () => {
  it("has numbered contacts in their cavity and shows empty ones", () => {
    const face = faceOf(port(8, ["1", "5", "8"]), "mating");
    expect([face?.rows, face?.columns]).toEqual([2, 4]);
    expect(row(face, 0)).toEqual(["1", "2", "3", "4"]);
    expect(face?.cavities.filter((c) => c.contact).map((c) => c.id)).toEqual(["1", "5", "8"]);
  });

  it("is mirrored from the side of the wires, and in the other half", () => {
    expect(row(faceOf(port(8, ["1"]), "wires"), 0)).toEqual(["4", "3", "2", "1"]);
    expect(row(faceOf(port(8, ["1"], "male"), "mating"), 0)).toEqual(["4", "3", "2", "1"]);
    // The wires of the male half are seen as the mating side of the female half.
    expect(row(faceOf(port(8, ["1"], "male"), "wires"), 0)).toEqual(["1", "2", "3", "4"]);
  });

  it("lists the same contacts in the same order for both halves, though one is the other's mirror", () => {
    const rows = contactRows(port(8, ["8", "1", "v"]));
    expect(rows.map((r) => [r.stamp, r.tag, r.words])).toEqual([
      ["1", "GND", "ground"],
      ["", "GND", "ground"],
      ["8", "GND", "ground"],
    ]);
    expect(contactRows(port(8, ["8", "1", "v"], "male"))).toEqual(rows);
    expect(contactRows(port(8, ["1", "8"]), { "8": "goes to the tail" }).map((r) => r.move)).toEqual([
      undefined,
      "goes to the tail",
    ]);
    expect(contactRows({ id: "x", label: "glass", contacts: [] })).toEqual([]);
  });

  it("places letters in what is left, and takes rows from the profile", () => {
    const face = faceOf(port(4, ["2", "ri", "ro"]), "mating");
    expect(row(face, 0)).toEqual(["ri", "2", "ro", "4"]);
    expect(faceOf(port(12, ["1"], "female", 3), "mating")).toMatchObject({ rows: 3, columns: 4 });
    expect(faceOf({ id: "x", label: "glass", contacts: [] }, "mating")).toBeNull();
  });

  it("has each contact just once and no two cavities in one place, whatever the plug", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 60 }),
        fc.uniqueArray(fc.oneof(fc.integer({ min: 1, max: 70 }).map(String), fc.constantFrom("a", "b", "H", "L")), {
          maxLength: 20,
        }),
        fc.constantFrom("male" as const, "female" as const),
        fc.constantFrom("mating" as const, "wires" as const),
        (ways, ids, gender, side) => {
          const face = faceOf(port(ways, ids, gender), side);
          expect(face?.cavities.flatMap((c) => (c.contact ? [c.contact.id] : [])).sort()).toEqual([...ids].sort());
          const places = face?.cavities.map((c) => `${c.row}/${c.column}`) ?? [];
          expect(new Set(places).size).toBe(places.length);
          expect(face?.cavities.every((c) => c.column < face.columns && c.row < face.rows)).toBe(true);
        },
      ),
    );
  });

  it("can be drawn for every plug of the library", () => {
    const ports = shippedLibrary().flatMap((p) =>
      ("parts" in p ? p.parts : []).flatMap((part) => part.ports.filter((x) => x.connector)),
    );
    expect(ports.length).toBeGreaterThan(100);
    for (const p of ports)
      expect(faceOf(p, "mating")?.cavities.filter((c) => c.contact)).toHaveLength(p.contacts.length);
  });

  it("marks every kind of signal with letters of its own", () => {
    const tags = SIGNAL_KINDS.map((k) => KIND_TAGS[k]);
    expect(new Set(tags).size).toBe(tags.length);
  });
});
