import { describe, expect, it } from "vitest";
import { composeFitted } from "../../core/model/compose";
import { demoDocuments } from "../../profiles/library";
import { describeContact, shortContact, stampOf, waysWords } from "./labels";

const { car, variant, kit } = demoDocuments();
const system = composeFitted(car, variant, kit);

describe("a contact in words", () => {
  it("has its number where one is stamped on the plug", () => {
    expect(describeContact(system, "harness.car.9")).toBe("T-harness, plug to the car, contact 9 (bus high)");
    expect(shortContact({ id: "T", kind: "microphone", label: "tip" })).toBe("T tip");
    expect(shortContact({ id: "3", kind: "ground" })).toBe("3 ground");
  });

  it("is called by what it is for where the identifier is the document's own", () => {
    expect(describeContact(system, "module.videoIn.v")).toBe("Interface module, VIDEO IN, picture");
    expect(shortContact({ id: "ro", kind: "opticalRing", label: "ring, from the radio" })).toBe("ring, from the radio");
    expect([stampOf({ id: "v" }), stampOf({ id: "L" }), stampOf({ id: "12" })]).toEqual(["", "L", "12"]);
  });

  it("of nothing is what was asked for", () => {
    expect(describeContact(system, "module.nowhere.1")).toBe("module.nowhere.1");
  });
});

describe("how many contacts a plug has room for", () => {
  it("is one way, or so many ways", () => {
    expect([waysWords(1), waysWords(12)]).toEqual(["1 way", "12 ways"]);
  });
});
