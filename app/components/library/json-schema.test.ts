import { describe, expect, it } from "vitest";
import { z } from "zod";
import { kitSchema } from "../../../profiles/schema";
import { type JsonSchema, placeInWords } from "./json-schema";

const schema = z.toJSONSchema(kitSchema, { io: "input" }) as JsonSchema;
const kit = {
  fitMinutes: { low: 5 },
  parts: [
    { id: "module", name: "Module", ports: [] },
    { id: "harness", name: "T-harness", ports: [{ id: "car", label: "plug to the car", contacts: [{ id: "1" }] }] },
  ],
};
const words = (path: string) => placeInWords(schema, kit, path);

describe("a place of a document in words", () => {
  it("names fields as the form does and members by their names", () => {
    expect(words("fitMinutes.low")).toBe("Fit minutes, Low");
    expect(words("parts.1.ports.0.label")).toBe("Parts, T-harness, Ports, plug to the car, Label");
    expect(words("parts.1.ports.0.contacts.0.kind")).toBe(
      "Parts, T-harness, Ports, plug to the car, Contacts, 1, Kind",
    );
  });

  it("counts members that have no name or are not there, and keeps keys that the schema does not know", () => {
    expect(words("parts.7.name")).toBe("Parts, Number 8, Name");
    expect(words("wheels.left")).toBe("Wheels, Left");
  });
});
