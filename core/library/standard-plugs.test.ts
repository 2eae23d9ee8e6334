import { describe, expect, it } from "vitest";
import { SPEAKER_BLOCK, STANDARD_PLUGS, speakerContacts } from "./standard-plugs";

const plug = (id: string) => new Map(STANDARD_PLUGS.find((p) => p.id === id)?.contacts.map((c) => [c.id, c]));

describe("plugs that are the same on every car", () => {
  it("have the radio connector A of ISO 10487 (from memory)", () => {
    const a = plug("A");
    expect([...a].map(([id, c]) => [id, c.kind])).toEqual([
      ["4", "battery"],
      ["5", "trigger"],
      ["6", "lighting"],
      ["7", "accessory"],
      ["8", "ground"],
    ]);
    // Makers disagree about 4 and 7: both labels say so.
    for (const id of ["4", "7"]) expect(a.get(id)?.label).toContain("by some makers");
  });

  it("have the radio connector B of ISO 10487 (from memory): pairs side by side", () => {
    const labels = [...plug("B").values()].map((c) => c.label);
    expect(labels).toEqual([
      "right rear plus",
      "right rear minus",
      "right front plus",
      "right front minus",
      "left front plus",
      "left front minus",
      "left rear plus",
      "left rear minus",
    ]);
  });

  it("have the 8-way block, whose pairs are four apart (common practice)", () => {
    const contacts = speakerContacts("out");
    expect(contacts.every((c) => c.direction === "out" && c.kind === "speaker")).toBe(true);
    for (let i = 0; i < 4; i++) {
      const [plus, minus] = [SPEAKER_BLOCK[i], SPEAKER_BLOCK[i + 4]];
      expect([plus?.[1], plus?.[2], minus?.[2]]).toEqual([minus?.[1], "+", "-"]);
    }
    // A left/right exchange in front is pair 2/6 with pair 3/7.
    expect([contacts[1]?.label, contacts[2]?.label]).toEqual(["right front plus", "left front plus"]);
  });
});
