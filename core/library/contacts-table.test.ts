import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { drawingGraph } from "../connect/drawing";
import { photoType } from "../job/photo";
import { composeFitted, kitPartIds } from "../model/compose";
import { readContacts } from "./contacts-table";
import { searchWords, wordsOf } from "./search-words";

describe("a pasted table of contacts", () => {
  const cases: [string, string, unknown[]][] = [
    [
      "semicolons without a header",
      "12;battery;in;steady feed;red\n13;ground;in;;brown;black",
      [
        { id: "12", kind: "battery", direction: "in", label: "steady feed", wire: { base: "red" } },
        { id: "13", kind: "ground", direction: "in", wire: { base: "brown", tracer: "black" } },
      ],
    ],
    [
      "commas with a header in another order",
      "kind,pin,direction\nserial video,v,out\nCAN bus,9,both",
      [
        { id: "v", kind: "serialVideo", direction: "out" },
        { id: "9", kind: "can", direction: "wire" },
      ],
    ],
    [
      "tabs, as a spreadsheet copies",
      "1\tspeaker\tout\tright rear plus",
      [{ id: "1", kind: "speaker", direction: "out", label: "right rear plus" }],
    ],
    ["no direction is a wire", "1;usb", [{ id: "1", kind: "usb", direction: "wire" }]],
  ];
  it.each(cases)("with %s", (_, text, contacts) => {
    expect(readContacts(text)).toEqual({ contacts, problems: [] });
  });
  it("has cases", () => expect(cases.length).toBeGreaterThan(3));

  it("keeps the good rows and names the bad ones", () => {
    const { contacts, problems } = readContacts(
      "1;battery;in\n1;ground;in\nx y;ground;in\n2;steam;in\n3;ground;sideways",
    );
    expect(contacts.map((c) => c.id)).toEqual(["1"]);
    expect(problems.map((p) => p.row)).toEqual([2, 3, 4, 5]);
    expect(problems[2]?.problem).toContain("battery feed");
  });

  it("never throws on anything pasted", () => {
    fc.assert(fc.property(fc.string(), (text) => Array.isArray(readContacts(text).contacts)));
  });
});

describe("words of a search", () => {
  it("are small letters and digits of any script", () => {
    expect(wordsOf("Radio R2, 1024x600; Größe Ω")).toEqual(["radio", "r2", "1024x600", "größe", "ω"]);
  });

  it("of a car hold every year and country, of a kit its work and functions", () => {
    const { car, kit } = demoDocuments();
    const has = (p: typeof car | typeof kit, field: string, word: string) =>
      searchWords(p).some((w) => w.field === field && w.word === word);
    expect([2018, 2020, 2022].every((y) => has(car, "year", String(y)))).toBe(true);
    expect(has(car, "year", "2023")).toBe(false);
    expect(has(car, "country", "no")).toBe(true);
    expect(has(kit, "text", "assistant")).toBe(true);
    expect(has(kit, "connector", "coded video 4")).toBe(true);
  });

  it("stand there once", () => {
    for (const p of shippedLibrary()) {
      const keys = searchWords(p).map((w) => `${w.field} ${w.word}`);
      expect(new Set(keys).size).toBe(keys.length);
    }
  });
});

describe("the drawing of a system", () => {
  it("has a box for every joined part and a line for every connection", () => {
    const { car, variant, kit } = demoDocuments();
    const system = composeFitted(car, variant, kit);
    const graph = drawingGraph(system, kitPartIds(kit));
    expect(graph.lines).toHaveLength(system.links.length);
    const boxes = new Set(graph.boxes.map((b) => b.id));
    for (const l of graph.lines) expect([boxes.has(l.from), boxes.has(l.to)]).toEqual([true, true]);
    expect(graph.boxes.find((b) => b.id === "module")?.ofKit).toBe(true);
    expect(graph.lines.find((l) => l.id === "k-phone-air")?.air).toBe(true);
  });
});

describe("photos", () => {
  it("are known by their first bytes, not by their name", () => {
    const bytes = (...b: number[]) => Uint8Array.from(b);
    expect(photoType(bytes(0xff, 0xd8, 0xff, 0xe0))).toBe("image/jpeg");
    expect(photoType(bytes(0x89, 0x50, 0x4e, 0x47))).toBe("image/png");
    expect(photoType(new TextEncoder().encode("RIFF....WEBPVP8 "))).toBe("image/webp");
    expect(photoType(new TextEncoder().encode("<svg onload=alert(1)>"))).toBeNull();
    expect(photoType(new Uint8Array())).toBeNull();
  });
});
