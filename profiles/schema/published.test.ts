/** The published schema in the hands of a validator from outside: ajv, JSON Schema draft 2020-12. */
import Ajv2020 from "ajv/dist/2020";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { mappedSignals } from "../../core/bus/bus-map";
import { messagesOf } from "../../core/bus/hunt/found";
import { draftRules } from "../../core/bus/translation/draft";
import { translationFile } from "../../core/bus/translation/export";
import { shippedLibrary } from "../library";
import { profileSchema } from ".";
import { publishedSchema, publishedTranslationSchema } from "./published";

const validate = new Ajv2020({ strict: false, validateFormats: false }).compile(publishedSchema());
const validateTranslation = new Ajv2020({ strict: false, validateFormats: false }).compile(
  publishedTranslationSchema(),
);
const library = shippedLibrary();

/** All places of a document, as lists of keys. */
function places(value: unknown, path: (string | number)[] = []): (string | number)[][] {
  if (typeof value !== "object" || value === null) return [path];
  return [
    path,
    ...Object.entries(value).flatMap(([k, v]) => places(v, [...path, Array.isArray(value) ? Number(k) : k])),
  ];
}

function put(document: unknown, path: readonly (string | number)[], value: unknown): unknown {
  const copy = structuredClone(document) as Record<string | number, unknown>;
  const last = path.at(-1);
  if (last === undefined) return value;
  const owner = path.slice(0, -1).reduce((at, k) => at[k] as Record<string | number, unknown>, copy);
  owner[last] = value;
  return copy;
}

describe("the published schema", () => {
  it("names the draft and takes every shipped document", () => {
    expect(publishedSchema()).toMatchObject({ $schema: "https://json-schema.org/draft/2020-12/schema" });
    expect(library.length).toBeGreaterThan(40);
    for (const document of library)
      expect([document.id, validate(JSON.parse(JSON.stringify(document))), validate.errors]).toEqual([
        document.id,
        true,
        null,
      ]);
  });

  it("refuses what the shop's own door refuses for its shape", () => {
    const smallest = [...library].sort((a, b) => JSON.stringify(a).length - JSON.stringify(b).length).slice(0, 6);
    let refused = 0;
    fc.assert(
      fc.property(
        fc.constantFrom(...smallest),
        fc.nat(),
        fc.constantFrom<unknown>(null, -1, "", [], {}, true, "moonlight", 1e9),
        (document, n, value) => {
          const all = places(document);
          const broken = JSON.parse(JSON.stringify(put(document, all[n % all.length] ?? [], value)));
          // The outside validator knows shapes; what two fields say together only the shop's door knows.
          if (validate(broken)) return;
          refused++;
          expect(profileSchema.safeParse(broken).success).toBe(false);
        },
      ),
      { numRuns: 400, seed: 11 },
    );
    expect(refused).toBeGreaterThan(200);
  });
});

describe("the published schema of a translation", () => {
  const signals = shippedLibrary().flatMap((p) => (p.document === "busMap" ? mappedSignals(p) : []));
  const rules = draftRules(messagesOf(signals, () => ""));
  const file = () => JSON.parse(JSON.stringify(translationFile({ rules }, signals)));

  it("takes what is exported", () => {
    expect(rules.length).toBeGreaterThan(5);
    expect([validateTranslation(file()), validateTranslation.errors]).toEqual([true, null]);
  });

  it.each([
    ["another format", (f: ReturnType<typeof file>) => ({ ...f, format: "other" })],
    ["a rule for no output", (f: ReturnType<typeof file>) => ({ ...f, rules: [{ ...f.rules[0], output: "horn" }] })],
    ["a time in words", (f: ReturnType<typeof file>) => ({ ...f, rules: [{ ...f.rules[0], holdMs: "long" }] })],
    ["a signal without a place", (f: ReturnType<typeof file>) => ({ ...f, signals: [{ signal: "A", message: "B" }] })],
  ])("refuses %s", (_, broken) => {
    expect(validateTranslation(broken(file()))).toBe(false);
  });
});
