import { execFileSync } from "node:child_process";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CodingMapError, checkCodingMap } from "./check";
import { CHECKSUMS, type CodedField, type CodedWord, type CodingMap, knownValues, valueWords } from "./map";
import { type Goal, holds, leastChange, type Rule, type Variable } from "./solve";
import {
  bytesFromHex,
  CHECKSUM,
  changedBits,
  checkWord,
  fieldValue,
  hexFromBytes,
  WordError,
  withFields,
} from "./word";

const bit = (id: string, byte: number, at: number, more: Partial<CodedField> = {}): CodedField => ({
  id,
  label: id,
  byte,
  bit: at,
  width: 1,
  about: "Test",
  values: [
    { raw: 0, label: "no" },
    { raw: 1, label: "yes" },
  ],
  ...more,
});
const word = (fields: CodedField[], more: Partial<CodedWord> = {}): CodedWord => ({
  id: "w",
  name: "Long word",
  identifier: 0x0600,
  length: 4,
  fields,
  ...more,
});
const map = (words: CodedWord[], more: Partial<CodingMap["units"][number]> = {}): CodingMap => ({
  document: "coding",
  id: "test",
  version: 1,
  title: "Test",
  sourceNote: "invented",
  car: "car",
  units: [{ id: "radio", name: "Radio", request: 0x7e0, answer: 0x7e8, words, ...more }],
});

describe("a word as text", () => {
  it.each([
    ["0A1B2C", [10, 27, 44]],
    ["0x0a 0x1B, 2c", [10, 27, 44]],
    ["0A-1B\n2C\t", [10, 27, 44]],
    ["0 A 1 B", [10, 27]],
  ])("%j is read", (text, bytes) => expect(bytesFromHex(text)).toEqual(bytes));

  it.each([
    ["0A1", "no whole bytes"],
    ["0G", "“G”"],
    ["  ", "nothing is entered"],
    ["00".repeat(600), "too many"],
  ])("%j is refused by name", (text, words) => expect(() => bytesFromHex(text)).toThrow(words));

  it("is written as it is read", () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 64 }), (b) => {
        expect(bytesFromHex(hexFromBytes([...b]))).toEqual([...b]);
      }),
    );
  });

  it("too short, too long or with a wrong digit is no word of this map", () => {
    const w = word([], { checksum: { kind: "xor", byte: 3 } });
    expect(() => checkWord(w, [1, 2, 3])).toThrow("Some of it is missing");
    expect(() => checkWord(w, [1, 2, 3, 0, 0])).toThrow("too much");
    expect(() => checkWord(w, [1, 2, 3, 1])).toThrow(WordError);
    expect(() => checkWord(w, [1, 2, 3, 0])).not.toThrow();
  });
});

describe("fields", () => {
  // 24 bits in all, laid out by hand: 0x12 0x34 0x56.
  it.each([
    [{ byte: 0, bit: 0, width: 8 }, 0x12],
    [{ byte: 0, bit: 4, width: 4 }, 0x1],
    [{ byte: 0, bit: 0, width: 16 }, 0x3412],
    [{ byte: 1, bit: 0, width: 16, order: "big" as const }, 0x1234],
    [{ byte: 2, bit: 4, width: 8, order: "big" as const }, 0x45],
  ])("%j is taken out of 12 34 56", (at, want) => {
    expect(fieldValue({ ...bit("f", 0, 0), ...at }, [0x12, 0x34, 0x56])).toBe(want);
  });

  it("put in change nothing beside them, and the check byte fits again", () => {
    const places = fc.record({
      byte: fc.integer({ min: 1, max: 5 }),
      bit: fc.integer({ min: 0, max: 7 }),
      width: fc.integer({ min: 1, max: 9 }),
      order: fc.constantFrom("little" as const, "big" as const),
    });
    fc.assert(
      fc.property(
        places,
        fc.uint8Array({ minLength: 8, maxLength: 8 }),
        fc.nat(),
        fc.constantFrom(...CHECKSUMS),
        (at, given, raw, kind) => {
          const field = { ...bit("f", 0, 0), ...at };
          const w = word([field], { length: 8, checksum: { kind, byte: 7 } });
          const value = raw % 2 ** at.width;
          const after = withFields(w, [...given], new Map([[field, value]]));
          expect(fieldValue(field, after)).toBe(value);
          expect(() => checkWord(w, after)).not.toThrow();
          const back = withFields(w, after, new Map([[field, fieldValue(field, [...given])]]));
          expect(back.slice(0, 7)).toEqual([...given.slice(0, 7)]);
          expect(changedBits([...given.slice(0, 7)], after.slice(0, 7)).length).toBeLessThanOrEqual(at.width);
        },
      ),
    );
  });

  it("say their value, and nothing where it is not known", () => {
    const size = bit("size", 0, 0, {
      width: 8,
      values: undefined,
      number: { factor: 0.5, offset: 10, unit: "cm", min: 11, max: 12 },
    } as Partial<CodedField>);
    expect(valueWords(size, 3)).toBe("11.5 cm");
    expect(knownValues(size)).toEqual([2, 3, 4]);
    expect(valueWords(bit("a", 0, 0, { width: 2 }), 3)).toBeNull();
  });
});

describe("check bytes", () => {
  it("have the values of the catalogue for “123456789”", () => {
    const digits = [...Buffer.from("123456789")];
    // facts: SAE J1850 4B, 8H2F DF (catalogue of parametrised CRC algorithms, from memory).
    expect(CHECKSUM["crc8 SAE J1850"](digits)).toBe(0x4b);
    expect(CHECKSUM["crc8 8H2F"](digits)).toBe(0xdf);
  });

  it("agree with crccheck (Debian's python3-crccheck) on random words", () => {
    const words = fc
      .sample(fc.uint8Array({ minLength: 0, maxLength: 40 }), { numRuns: 300, seed: 5 })
      .map((w) => [...w]);
    const script =
      "import sys,json;from crccheck.crc import Crc8SaeJ1850 as A,Crc8Autosar as B;from crccheck.checksum import Checksum8 as S,ChecksumXor8 as X;print(json.dumps([[S.calc(w),X.calc(w),A.calc(w),B.calc(w)] for w in json.load(sys.stdin)]))";
    const theirs = JSON.parse(
      execFileSync("/usr/bin/python3", ["-c", script], { input: JSON.stringify(words), encoding: "utf8" }),
    );
    expect(theirs).toEqual(words.map((w) => CHECKSUMS.map((kind) => CHECKSUM[kind](w))));
  });
});

describe("a coding map", () => {
  const sound = word([bit("a", 0, 0), bit("b", 0, 1)], { checksum: { kind: "sum", byte: 3 } });

  it("that makes sense is taken", () => expect(() => checkCodingMap(map([sound]))).not.toThrow());

  it.each<[string, CodingMap, string]>([
    [
      "overlapping fields",
      map([word([bit("a", 0, 0, { width: 3 }), bit("b", 0, 2)])]),
      "overlaps “a” in byte 0, bit 2",
    ],
    ["a field outside its word", map([word([bit("a", 3, 6, { width: 4 })])]), "outside the 4 bytes"],
    ["a big field before its word", map([word([bit("a", 0, 6, { width: 4, order: "big" })])]), "outside the 4 bytes"],
    ["a field in the check byte", map([{ ...sound, fields: [bit("a", 3, 0)] }]), "check byte"],
    ["a check byte outside", map([{ ...sound, checksum: { kind: "sum", byte: 4 } }]), "outside"],
    ["a value too large", map([word([bit("a", 0, 0, { values: [{ raw: 2, label: "x" }] })])]), "does not fit 1 bit"],
    ["a field without meaning", map([word([bit("a", 0, 0, { values: undefined } as never)])]), "neither values"],
    [
      "a reference to nothing",
      map([word([bit("a", 0, 0, { needs: [{ with: [1], field: "radio.w.x", is: [1], say: "" }] })])]),
      "no field",
    ],
    [
      "dependencies in a circle",
      map([
        word([
          bit("a", 0, 0, { needs: [{ with: [1], field: "radio.w.b", is: [1], say: "" }] }),
          bit("b", 0, 1, { needs: [{ with: [1], field: "radio.w.a", is: [1], say: "" }] }),
        ]),
      ]),
      "a → b → a",
    ],
    ["one address for two", map([sound], { answer: 0x7e0 }), "is that of “Radio” already"],
    ["an identifier too long", map([sound], { answer: 0x800 }), "more than 11 bits"],
    ["a list that is nowhere", map([sound], { listed: { field: "x.y.z", is: [1] } }), "which is no field"],
    ["a word twice", map([sound, sound]), "twice"],
  ])("%s is refused by place", (_, given, words) => {
    expect(() => checkCodingMap(given)).toThrow(CodingMapError);
    expect(() => checkCodingMap(given)).toThrow(words);
  });
});

describe("the least change", () => {
  const variable = fc.record({ now: fc.integer({ min: 0, max: 3 }), domain: fc.subarray([0, 1, 2, 3]) });
  const random = fc
    .record({
      variables: fc.array(variable, { minLength: 1, maxLength: 6 }),
      rules: fc.array(
        fc.oneof(
          fc.record({
            kind: fc.constant("needs" as const),
            key: fc.nat(),
            with: fc.subarray([0, 1, 2, 3]),
            other: fc.nat(),
            is: fc.subarray([0, 1, 2, 3]),
          }),
          fc.record({ kind: fc.constant("oneOf" as const), keys: fc.array(fc.nat(), { minLength: 2, maxLength: 4 }) }),
        ),
        { maxLength: 6 },
      ),
      goals: fc.array(fc.record({ key: fc.nat(), in: fc.subarray([0, 1, 2, 3], { minLength: 1 }) }), { maxLength: 3 }),
    })
    .map(({ variables, rules, goals }) => {
      const name = (n: number) => `v${n % variables.length}`;
      return {
        variables: variables.map((v, i): Variable => ({ key: `v${i}`, ...v })),
        rules: rules.map(
          (r): Rule =>
            r.kind === "oneOf"
              ? { kind: "oneOf", keys: [...new Set(r.keys.map(name))] }
              : { ...r, key: name(r.key), other: name(r.other) },
        ),
        goals: goals.map((g): Goal => ({ key: name(g.key), in: g.in })),
      };
    });
  const ones = (n: number) => n.toString(2).replaceAll("0", "").length;

  /** Fewest bits over all assignments that meet goals and all rules of the components with an open goal. */
  function bruteForce(variables: readonly Variable[], rules: readonly Rule[], goals: readonly Goal[]): number | null {
    const keys = (r: Rule) => (r.kind === "needs" ? [r.key, r.other] : r.keys);
    const touched = new Set(
      goals.filter((g) => !g.in.includes(variables.find((v) => v.key === g.key)?.now as number)).map((g) => g.key),
    );
    for (let before = -1; before !== touched.size; ) {
      before = touched.size;
      for (const r of rules) if (keys(r).some((k) => touched.has(k))) for (const k of keys(r)) touched.add(k);
    }
    const bound = rules.filter((r) => keys(r).some((k) => touched.has(k)));
    let best: number | null = null;
    const walk = (i: number, values: Map<string, number>, bits: number): void => {
      const v = variables[i];
      if (!v) {
        const good =
          bound.every((r) => holds(r, values)) && goals.every((g) => g.in.includes(values.get(g.key) as number));
        if (good && (best === null || bits < best)) best = bits;
        return;
      }
      for (const value of touched.has(v.key) ? new Set([v.now, ...v.domain]) : [v.now])
        walk(i + 1, new Map(values).set(v.key, value), bits + ones(value ^ v.now));
    };
    walk(0, new Map(), 0);
    return best;
  }

  it("is the one that trying everything finds", () => {
    let solved = 0;
    fc.assert(
      fc.property(random, ({ variables, rules, goals }) => {
        const want = bruteForce(variables, rules, goals);
        const got = leastChange(variables, rules, goals);
        expect(got.kind).not.toBe("undecided");
        expect(got.kind === "solved" ? got.bits : null).toBe(want);
        if (got.kind === "solved") solved++;
      }),
      { numRuns: 600 },
    );
    expect(solved).toBeGreaterThan(100);
  });

  it("names goals that cannot be met together, and only these", () => {
    const v = (key: string): Variable => ({ key, now: 0, domain: [0, 1] });
    const got = leastChange(
      [v("a"), v("b"), v("c")],
      [{ kind: "oneOf", keys: ["a", "b"] }],
      [
        { key: "a", in: [1] },
        { key: "b", in: [1] },
        { key: "c", in: [1] },
      ],
    );
    expect(got).toEqual({
      kind: "contradiction",
      goals: [
        { key: "a", in: [1] },
        { key: "b", in: [1] },
      ],
    });
  });

  it("says so where it cannot be found in time, instead of something that is not the least", () => {
    let seed = 1;
    const pick = (n: number) => {
      seed = (seed * 48271) % 2147483647;
      return seed % n;
    };
    const variables = Array.from(
      { length: 128 },
      (_, i): Variable => ({ key: `f${i}`, now: pick(3), domain: [0, 1, 2] }),
    );
    const rules = variables.slice(4).map(
      (v, i): Rule => ({
        kind: "needs",
        key: v.key,
        with: [1 + pick(2)],
        other: `f${pick(i + 4)}`,
        is: [pick(3), pick(3)],
      }),
    );
    for (let g = 0; g < 128; g += 8) rules.push({ kind: "oneOf", keys: [`f${g}`, `f${g + 3}`, `f${g + 6}`] });
    const goals = Array.from({ length: 13 }, (_, i) => ({ key: `f${8 * i + 7}`, in: [1 + pick(2)] }));
    expect(leastChange(variables, rules, goals).kind).toBe("undecided");
  });

  it("leaves alone what the factory left against the rules, unless it is touched", () => {
    const v = (key: string, now: number): Variable => ({ key, now, domain: [0, 1] });
    const rules: Rule[] = [{ kind: "oneOf", keys: ["a", "b", "c"] }];
    const variables = [v("a", 1), v("b", 1), v("c", 0), v("d", 0)];
    expect(leastChange(variables, rules, [{ key: "d", in: [1] }])).toMatchObject({ bits: 1 });
    expect(leastChange(variables, rules, [{ key: "c", in: [1] }])).toMatchObject({ bits: 3 });
  });
});
