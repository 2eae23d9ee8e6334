import fc from "fast-check";
import Papa from "papaparse";
import { describe, expect, test } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import type { CodedUnit, CodingMap } from "./map";
import { withMapText } from "./map-merge";
import { mapTable, readMapText } from "./map-text";

const maps = shippedLibrary().filter((p): p is CodingMap => p.document === "coding");

/** What the table can say of a map. */
const said = (units: readonly CodedUnit[]) =>
  units
    .filter((u) => u.words.some((w) => w.fields.length > 0))
    .map((u) => ({
      name: u.name,
      request: u.request,
      answer: u.answer,
      words: u.words
        .filter((w) => w.fields.length > 0)
        .map(({ name, identifier, length, checksum, fields }) => ({
          name,
          identifier,
          length,
          checksum,
          fields: fields.map(({ id: _, needs: _n, facts: _f, number, ...rest }) => ({
            ...rest,
            ...(number ? { number: { factor: number.factor, offset: number.offset, unit: number.unit } } : {}),
          })),
        })),
    }));

describe("a table", () => {
  test.each(maps.map((m) => [m.id, m] as const))("of %s is read as it was written", (_, map) => {
    for (const delimiter of [",", ";", "\t"]) {
      const read = readMapText(Papa.unparse(mapTable(map.units), { delimiter }));
      expect(read.problems).toEqual([]);
      expect(said(read.units)).toEqual(said(map.units));
    }
  });

  test("names every row that it refuses, and reads the others", () => {
    const { units, fields, problems } = readMapText(`
unit,request,answer,word,identifier,length,field,byte,bit,width,values,hue
Radio,7A3,7AB,Sound,0600,4,Tweeters,0,5,1,0 = no; 1 = yes,
# a comment
,,,,,,Too far,4,0,1,,
,,,,,,Too wide,1,0,2,4 = yes,
,,,,,,Twice,1,0,2,1 = a; 1 = b,
,,,,,,No byte,x,0,2,,
,,,,,,Volume,2,0,8,0.5 * x - 10,
Radio,7A4,,,,,,,,,,
Radio,,,Sound,0600,5,,,,,,
,,,Other,0601,,,,,,,
,,,,zz,,,,,,,`);
    expect(fields).toBe(2);
    expect(units[0]?.words[0]?.fields.map((f) => [f.label, f.number])).toEqual([
      ["Tweeters", undefined],
      ["Volume", { factor: 0.5, offset: -10, unit: "" }],
    ]);
    expect(problems.map((p) => p.line)).toEqual([2, 5, 6, 7, 8, 10, 11, 12, 13]);
    expect(problems.map((p) => p.problem).join("\n")).toMatch(
      /hue.*\n.*outside.*\n.*does not go into.*\n.*two meanings.*\n.*no byte.*\n.*two addresses.*\n.*two lengths.*\n.*length of word.*\n.*no hexadecimal/,
    );
  });
});

describe("a leaflet", () => {
  test("is read by unit, word and byte; what is not understood is named", () => {
    const { units, problems } = readMapText(`
Coding after fitting
Radio (7A3 / 7AB)
Word 0600 Sound, 8 bytes, crc8 8H2F byte 7
• Byte 0 bits 0-1: Loudspeakers (0 two in front, 1 four, 2 four and tweeters)
• Byte 3 bit 5: Tweeters watched, 0 = no, 1 = yes
Byte 4: Drive side 1 left / 2 right
Unit: Gateway, 18DA10F1, 18DAF110
Identifier 0x04A3 list of units 4 bytes
Byte 1, bit 3: Radio fitted
Byte 9 bit 0: too far`);
    expect(units.map((u) => [u.name, u.request, u.answer, u.extended ?? false])).toEqual([
      ["Radio", 0x7a3, 0x7ab, false],
      ["Gateway", 0x18da10f1, 0x18daf110, true],
    ]);
    expect(units[0]?.words[0]).toMatchObject({
      name: "Sound",
      identifier: 0x600,
      length: 8,
      checksum: { kind: "crc8 8H2F", byte: 7 },
    });
    expect(units[0]?.words[0]?.fields).toEqual([
      {
        id: "loudspeakers",
        label: "Loudspeakers",
        byte: 0,
        bit: 0,
        width: 2,
        about: "Sound",
        values: [
          { raw: 0, label: "two in front" },
          { raw: 1, label: "four" },
          { raw: 2, label: "four and tweeters" },
        ],
      },
      expect.objectContaining({
        label: "Tweeters watched",
        byte: 3,
        bit: 5,
        width: 1,
        values: [
          { raw: 0, label: "no" },
          { raw: 1, label: "yes" },
        ],
      }),
      expect.objectContaining({
        label: "Drive side",
        byte: 4,
        bit: 0,
        width: 8,
        values: [
          { raw: 1, label: "left" },
          { raw: 2, label: "right" },
        ],
      }),
    ]);
    expect(units[1]?.words[0]).toMatchObject({
      name: "list of units",
      identifier: 0x4a3,
      fields: [{ label: "Radio fitted", byte: 1, bit: 3, width: 1 }],
    });
    expect(problems).toEqual([
      { line: 2, problem: expect.stringContaining("no control unit, no word and no byte") },
      { line: 11, problem: expect.stringContaining("outside its word of 4 bytes") },
    ]);
  });

  test("asks for the unit and the word before the fields", () => {
    const { units, problems } = readMapText("Byte 0 bit 1: Something\nWord 0600 Sound, 8 bytes");
    expect(units).toEqual([]);
    expect(problems.map((p) => p.problem)).toEqual([
      expect.stringContaining("word of this field is not said"),
      expect.stringContaining("control unit of this word is not said"),
    ]);
  });
});

test("what was read comes into a map beside what it has; a field that stands there already is read anew", () => {
  const [map] = maps;
  if (!map) throw new Error("no map");
  const gateway = map.units[0];
  const old = gateway?.words[0]?.fields.find((f) => f.needs);
  const { units } = readMapText(
    `Gateway, 710, 77A\nWord 04A3 List, 4 bytes\nByte 3 bit 6: ${old?.label}, 0 = off, 1 = on\nByte 3 bit 7: Something new\nHeater, 7C0, 7C8\nWord 0700 Heater, 2 bytes\nByte 0: Level`,
  );
  const next = withMapText(map.units, units);
  const list = next[0]?.words[0]?.fields ?? [];
  expect(next.map((u) => u.name)).toEqual([...map.units.map((u) => u.name), "Heater"]);
  expect(list).toHaveLength((gateway?.words[0]?.fields.length ?? 0) + 1);
  expect(list.find((f) => f.id === old?.id)).toMatchObject({ bit: 6, needs: old?.needs });
  expect(
    new Set(next.flatMap((u) => u.words.flatMap((w) => w.fields.map((f) => `${u.id}.${w.id}.${f.id}`)))).size,
  ).toBe(next.flatMap((u) => u.words.flatMap((w) => w.fields)).length);
});

test("any text is answered: as many problems and fields as there are lines that say something", () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.string({ maxLength: 60 }).map((l) => l.replace(/[\r\n]/g, " ")),
        { maxLength: 20 },
      ),
      (lines) => {
        const { problems } = readMapText(lines.join("\n"));
        expect(problems.every((p) => p.line >= 1 && p.line <= lines.length)).toBe(true);
      },
    ),
  );
});
