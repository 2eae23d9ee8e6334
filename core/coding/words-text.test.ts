import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { type NamedWord, readWordsText, wordsJson, wordsText } from "./words-text";

const WORDS: NamedWord[] = [
  { ref: "radio.sound", title: "Radio: Sound", identifier: 0x600, length: 3 },
  { ref: "radio.soundMore", title: "Radio: Sound, more", identifier: 0x601, length: 2 },
  { ref: "gateway.list", title: "Gateway: List", identifier: 0x4a3, length: 2, checksum: { kind: "xor", byte: 1 } },
  { ref: "cluster.list", title: "Cluster: List", identifier: 0x4a3, length: 2 },
];

test("what was saved is read back, as text and as JSON", () => {
  const bytes = fc.uint8Array({ minLength: 3, maxLength: 3 });
  fc.assert(
    fc.property(bytes, bytes, (a, b) => {
      const standing = [
        { ...WORDS[0], bytes: [...a], at: "2026-11-27T08:00:00Z" },
        { ...WORDS[1], bytes: [...b].slice(0, 2), at: "2026-11-27T08:00:00Z" },
        { ...WORDS[3], bytes: null, at: "" },
      ] as Parameters<typeof wordsText>[1];
      for (const file of [wordsText("Mail van", standing), wordsJson("Mail van", standing)]) {
        const { words, problems } = readWordsText(WORDS, file);
        expect(problems).toEqual([]);
        expect(words.map((w) => w.ref)).toEqual(["radio.sound", "radio.soundMore"]);
        expect(Number.parseInt(words[0]?.hex.replace(/ /g, "") ?? "", 16)).toBe(
          (a[0] ?? 0) * 65536 + (a[1] ?? 0) * 256 + (a[2] ?? 0),
        );
      }
    }),
  );
});

describe("words as other tools show them", () => {
  test("by name, by identifier, in any spacing and over several lines", () => {
    const { words, problems } = readWordsText(
      WORDS,
      "0600 = 0x01,02-03\r\nRadio: Sound, more: 0a0B\ncluster.list 04A3:\n  01\n  02\n",
    );
    expect(problems).toEqual([]);
    expect(words).toEqual([
      { ref: "radio.sound", title: "Radio: Sound", hex: "01 02 03" },
      { ref: "radio.soundMore", title: "Radio: Sound, more", hex: "0A 0B" },
      { ref: "cluster.list", title: "Cluster: List", hex: "01 02" },
    ]);
  });

  test("every line that is not read is named", () => {
    const { words, problems } = readWordsText(
      WORDS,
      "0600: 01 02\n04A3: 01 01\nHeater: 01\n0600 01 02 03\nradio.sound: 04 05 06\ngateway.list: 01 02\n0601: 0\n0601: xy zz",
    );
    expect(words.map((w) => w.ref)).toEqual(["radio.sound"]);
    expect(problems.map((p) => p.line).sort()).toEqual([1, 2, 3, 5, 6, 7, 8]);
    expect(problems.map((p) => p.problem).join("\n")).toMatch(/several words: Gateway: List, Cluster: List/);
    expect(problems.map((p) => p.problem).join("\n")).toMatch(/names no word/);
    expect(problems.map((p) => p.problem).join("\n")).toMatch(/check byte is 02/);
    expect(problems.map((p) => p.problem).join("\n")).toMatch(/stands there twice/);
  });

  test("JSON of another kind, or broken, is refused", () => {
    expect(readWordsText(WORDS, "{").problems).toHaveLength(1);
    expect(readWordsText(WORDS, '{"format":"other","words":[]}').problems[0]?.problem).toMatch(/another kind/);
    expect(
      readWordsText(WORDS, '{"format":"iteron-coded-words","words":[{"word":"x.y","hex":"00"}, 3]}').problems,
    ).toHaveLength(2);
  });
});
