import { describe, expect, it } from "vitest";
import { carSchema, codingSchema, kitSchema, variantSchema } from "../../../profiles/schema";
import { sectionsOf } from "./sections";

/** Set when a document is stored, never by hand. */
const STORED = ["document", "version"];

describe("the sections of the editor", () => {
  it.each([
    ["car", carSchema],
    ["variant", variantSchema],
    ["kit", kitSchema],
    ["coding", codingSchema],
  ] as const)("reach every field of a %s, each once", (kind, schema) => {
    const shown = sectionsOf(kind).flatMap((s) => s.keys);
    expect([...shown].sort()).toEqual(
      Object.keys(schema.shape)
        .filter((k) => !STORED.includes(k))
        .sort(),
    );
  });
});
