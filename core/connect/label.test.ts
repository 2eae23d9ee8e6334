import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Connection } from "./connection-plan";
import { LabelError, labelText, readLabel } from "./label";

const connections = ["k-mic", "k-Camera_2", "loom+x"].map(
  (link): Connection => ({ link, say: link, kind: "kit", a: "a.b", b: "c.d" }),
);

describe("labels of leads", () => {
  it("lead back to their connection, however they are typed", () => {
    for (const { link } of connections) {
      expect(readLabel(labelText(104, link), 104, connections).link).toBe(link);
      expect(readLabel(`  ${labelText(104, link).toUpperCase()}\n`, 104, connections).link).toBe(link);
    }
  });

  it.each([
    ["", "no label"],
    ["https://example.org", "no label"],
    ["iteron 104", "no label"],
    ["iteron 103 k-mic", "belongs to job 103, this is 104"],
    ["iteron 104 k-horn", "no connection “k-horn”"],
  ])("say what “%s” is instead", (text, reason) => {
    expect(() => readLabel(text, 104, connections)).toThrow(LabelError);
    expect(() => readLabel(text, 104, connections)).toThrow(reason);
  });

  it("never take a strange text for a lead of this job", () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        try {
          const { link } = readLabel(text, 104, connections);
          expect(text.toLowerCase()).toContain(link.toLowerCase());
        } catch (error) {
          expect(error).toBeInstanceOf(LabelError);
        }
      }),
    );
  });
});
