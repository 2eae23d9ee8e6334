import { describe, expect, it } from "vitest";
import { z } from "zod";
import { contactRef, place, portRef, text } from "../../../profiles/schema/labels";
import { placesIn } from "./places-in";

const kit = {
  parts: [
    {
      id: "module",
      name: "Interface module",
      ports: [
        { id: "main", label: "main plug", contacts: [{ id: "1", label: "battery feed" }, { id: "2" }] },
        { id: "usb", label: "USB", contacts: [] },
      ],
    },
    { id: "lead", name: "Video lead" },
  ],
};
const pattern = (schema: z.ZodType) => (z.toJSONSchema(schema) as { pattern?: string }).pattern;

describe("places that a field may name", () => {
  it("are contacts of all parts for a reference to a contact", () => {
    expect(placesIn(kit, "drops.0.from", pattern(contactRef))).toEqual([
      { value: "module.main.1", words: "Interface module: main plug, battery feed" },
      { value: "module.main.2", words: "Interface module: main plug, contact 2" },
    ]);
  });

  it("are sockets outside of a part, and its own contacts within", () => {
    expect(placesIn(kit, "links.0.a", pattern(portRef)).map((p) => p.value)).toEqual(["module.main", "module.usb"]);
    expect(placesIn(kit, "parts.0.needs.0.at", pattern(place)).map((p) => p.value)).toEqual(["main.1", "main.2"]);
    expect(placesIn(kit, "parts.7.needs.0.at", pattern(place))).toEqual([]);
  });

  it("are parts, too, where somebody looks or measures", () => {
    expect(placesIn(kit, "inspections.2.at", undefined).map((p) => p.value)).toEqual([
      "module",
      "lead",
      "module.main.1",
      "module.main.2",
    ]);
  });

  it("are none for a text, a version, or a document that is half written", () => {
    expect(placesIn(kit, "title", pattern(text))).toEqual([]);
    expect(placesIn(kit, "firmware", "^[A-Za-z0-9][A-Za-z0-9._-]*$")).toEqual([]);
    for (const half of [null, { parts: "x" }, { parts: [null] }])
      expect(placesIn(half, "links.0.a", pattern(portRef))).toEqual([]);
  });
});
