import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { byModule, bytesFromCode, codeFromBytes, readFaultCodes } from "./fault-codes";

describe("fault codes from bytes", () => {
  // Source: SAE J2012 (from memory).
  it.each([
    [0x01, 0x33, "P0133"],
    [0xc1, 0x00, "U0100"],
    [0x00, 0x00, "P0000"],
    [0x9a, 0xbc, "B1ABC"],
    [0x52, 0x34, "C1234"],
  ])("%i %i is %s", (high, low, code) => {
    expect(codeFromBytes(high, low)).toBe(code);
    expect(bytesFromCode(code)).toEqual([high, low]);
  });

  it("and back again for every pair of bytes", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 255 }), fc.integer({ min: 0, max: 255 }), (h, l) => {
        expect(bytesFromCode(codeFromBytes(h, l))).toEqual([h, l]);
      }),
    );
  });

  it("refuses what is no byte and no code", () => {
    expect(() => codeFromBytes(256, 0)).toThrow(RangeError);
    expect(() => codeFromBytes(1.5, 0)).toThrow(RangeError);
    expect(bytesFromCode("P4000")).toBeNull();
    expect(bytesFromCode("X0100")).toBeNull();
  });
});

describe("fault codes from text", () => {
  const cases: [string, string, { module: string; code: string; text: string }[]][] = [
    [
      "one a line",
      "P0133\nU0100",
      [
        { module: "", code: "P0133", text: "" },
        { module: "", code: "U0100", text: "" },
      ],
    ],
    [
      "under headings",
      "Radio:\n  B1234 open circuit\nGateway\nU0100-11 lost communication",
      [
        { module: "Radio", code: "B1234", text: "open circuit" },
        { module: "Gateway", code: "U0100-11", text: "lost communication" },
      ],
    ],
    ["module in the line", "Radio: b1234 open", [{ module: "Radio", code: "B1234", text: "open" }]],
    [
      "bytes",
      "01 33\nC1 00 87",
      [
        { module: "", code: "P0133", text: "" },
        { module: "", code: "U0100-87", text: "" },
      ],
    ],
    [
      "a table with semicolons",
      'module;code;description\nRadio;B1234;"open; front left"\nGateway;01 33;slow',
      [
        { module: "Radio", code: "B1234", text: "open; front left" },
        { module: "Gateway", code: "P0133", text: "slow" },
      ],
    ],
    [
      "JSON objects",
      '[{"module":"Radio","code":"B1234","text":"open"},{"code":"U0100"}]',
      [
        { module: "Radio", code: "B1234", text: "open" },
        { module: "", code: "U0100", text: "" },
      ],
    ],
    [
      "JSON by module",
      '{"Radio":["B1234"],"Gateway":["U0100"]}',
      [
        { module: "Radio", code: "B1234", text: "" },
        { module: "Gateway", code: "U0100", text: "" },
      ],
    ],
  ];
  it.each(cases)("%s", (_, text, codes) => {
    const read = readFaultCodes(text);
    expect(read.codes).toEqual(codes);
    expect(read.problems).toEqual([]);
  });
  it("has cases at all", () => expect(cases.length).toBeGreaterThan(5));

  it("keeps the good lines and names the bad ones with their number", () => {
    const read = readFaultCodes("P0133\nP9999\nU0100");
    expect(read.codes.map((c) => c.code)).toEqual(["P0133", "U0100"]);
    expect(read.problems).toEqual([{ line: 2, text: "P9999", problem: expect.stringContaining("P0133") }]);
    expect(readFaultCodes('{"codes": ["no code"').problems[0]?.problem).toMatch(/begins like JSON/);
    expect(readFaultCodes("[]").problems).toHaveLength(1);
    expect(readFaultCodes("module;code\nRadio;hello").problems[0]).toMatchObject({ line: 2 });
  });

  it("takes an empty field and “no codes” as none", () => {
    expect(readFaultCodes("  ").codes).toEqual([]);
    expect(readFaultCodes("no codes stored")).toMatchObject({ codes: [], problems: [] });
  });

  it("never throws on anything typed", () => {
    fc.assert(fc.property(fc.string(), (text) => Array.isArray(readFaultCodes(text).codes)));
  });

  it("names a line that is neither a code nor the module of one", () => {
    const read = readFaultCodes("Radio\nB1234 open\nscreen flickers\nGateway\nU0100\nseen in the rain");
    expect(read.codes.map((c) => [c.module, c.code])).toEqual([
      ["Radio", "B1234"],
      ["Gateway", "U0100"],
    ]);
    expect(read.problems.map((p) => [p.line, p.text])).toEqual([
      [3, "screen flickers"],
      [6, "seen in the rain"],
    ]);
    expect(readFaultCodes("Radio\nno codes\nGateway: none").problems).toEqual([]);
  });

  it("groups by module, those without one last", () => {
    const groups = byModule(readFaultCodes("P0133\nRadio\nB1234\nB1235").codes);
    expect(groups.map((g) => [g.module, g.codes.length])).toEqual([
      ["Radio", 2],
      ["", 1],
    ]);
  });
});
