/**
 * Every answer of every shipped leaflet, changed one by one: it is refused at the answer, or builds a document that is
 * sound, and whose functions all still work on its radios unless the answer says another car.
 */
import { describe, expect, it } from "vitest";
import { z } from "zod";
import { offersOf } from "../../core/fit/offers";
import { rankKits } from "../../core/fit/rank";
import { planJob } from "../../core/job/plan";
import { CoreError } from "../../core/model/errors";
import type { CarProfile, KitProfile, VariantProfile } from "../../core/model/profile";
import { ProfileError } from "../checks";
import { shippedLeaflets, shippedLibrary } from "../library";
import { checkProfile } from "../read";
import { buildLeaflet, type Leaflet, leafletSchema } from "./index";

const library = shippedLibrary();
const cars = library.flatMap((p) => (p.document === "car" ? [p as CarProfile] : []));
const radios = library.flatMap((p) => (p.document === "variant" ? [p as VariantProfile] : []));
const carOf = (variant: VariantProfile) => cars.find((c) => c.id === variant.car) as CarProfile;
const leaflets = shippedLeaflets().filter((l) => l.archetype !== "car" && l.archetype !== "variant");

/** What says of which car or radio a kit is, and texts that change nothing. */
const OF_THE_CAR =
  /^(ring|formats|keyReader|touch|climateZones|keepsCamera|oldScreen|phoneKey|mirroring|radioPlug|newPlug|features|from|menu|harness|pins|newPins|soundPaths)/;
const WORDS = /^(price|fitMinutes|box|card|wires|sourceNote|title|maker|cameraFigures)/;

type Schema = z.core.JSONSchema._JSONSchema;
type Changed = [name: string, value: unknown];

/** Every way in which one answer can be another one: the other words, the ends of a range, a yes for a no, left out. */
function* changed(value: unknown, schema: Schema, path: string): Generator<Changed> {
  if (typeof schema === "boolean" || schema.const !== undefined) return;
  if (schema.anyOf) for (const s of schema.anyOf) yield* changed(value, s, path);
  else if (schema.enum) for (const e of schema.enum) yield* e === value ? [] : [[`${path}=${e}`, e] as Changed];
  else if (schema.type === "boolean") yield [`${path}=${!value}`, !value];
  else if (schema.type === "integer" || schema.type === "number")
    for (const n of [schema.minimum, schema.maximum])
      yield* n === undefined || n === value || Math.abs(n) > 1e6 ? [] : [[`${path}=${n}`, n] as Changed];
  else if (schema.type === "array" && Array.isArray(value)) yield* changedList(value, schema, path);
  else if (schema.type === "object" && value && typeof value === "object")
    for (const [key, s] of Object.entries(schema.properties ?? {})) {
      const [before, at] = [(value as Record<string, unknown>)[key], path ? `${path}.${key}` : key];
      for (const [name, v] of changed(before, s, at)) yield [name, { ...value, [key]: v }];
      if (before === undefined || schema.required?.includes(key)) continue;
      const { [key]: _, ...without } = value as Record<string, unknown>;
      yield [`${at} left out`, without];
    }
}

function* changedList(list: unknown[], { items }: Exclude<Schema, boolean>, path: string): Generator<Changed> {
  for (const [i, item] of list.entries()) {
    yield [`${path} without ${i}`, list.filter((_, j) => j !== i)];
    if (items && !Array.isArray(items))
      for (const [name, v] of changed(item, items, `${path}.${i}`)) yield [name, list.map((x, j) => (j === i ? v : x))];
  }
}

/** The document of a leaflet; what refuses it, where it is refused. */
function built(schema: z.ZodType<Leaflet>, answers: unknown): KitProfile | { at: string } {
  const read = schema.safeParse(answers);
  if (!read.success) return { at: read.error.issues.map((i) => i.path.join(".")).join() };
  try {
    return checkProfile(buildLeaflet(read.data, cars)) as KitProfile;
  } catch (error) {
    if (error instanceof ProfileError) return { at: error.message };
    throw error;
  }
}

/** The usual offer and two others: a change that takes a function away shows in one of them. */
const OFFERS = 3;

/** Functions of a kit that work with one of its offers on one of some radios. */
function working(kit: KitProfile, on: readonly VariantProfile[]): Set<string> {
  const tried = on.flatMap((variant) =>
    offersOf(kit)
      .slice(0, OFFERS)
      .flatMap((choices) => {
        try {
          return planJob({ car: carOf(variant), variant, kit }, { choices }).tests;
        } catch (error) {
          if (error instanceof CoreError) return [];
          throw error;
        }
      }),
  );
  return new Set(tried.map((t) => t.fn.id));
}

describe("the answers of a leaflet", () => {
  it.each(leaflets.map((l) => [l.id, l] as const))("of %s", (_, leaflet) => {
    const schema = leafletSchema(leaflet.archetype);
    if (!schema) throw new Error("no schema");
    const base = built(schema, leaflet);
    if ("at" in base) throw new Error(`the shipped leaflet is refused at ${base.at}`);
    const fits = (variant: VariantProfile) =>
      rankKits({ car: carOf(variant), variant, kits: [base], wishes: [], firmware: "" })[0]?.verdict.level !==
      "impossible";
    const on = radios.filter(fits).slice(0, 1);
    expect(on).not.toEqual([]);
    const before = working(base, on);
    const dead = (kit: KitProfile) => {
      const after = working(kit, on);
      // What did not work here before, for this car has what it would replace, need not work now.
      return kit.functions.map((f) => f.id).filter((id) => before.has(id) && !after.has(id));
    };
    const js = z.toJSONSchema(schema, { io: "input", unrepresentable: "any" });
    const wrong: string[] = [];
    for (const [name, answers] of changed(leaflet, js, "")) {
      if (WORDS.test(name)) continue;
      const kit = built(schema, answers);
      if ("at" in kit) {
        if (kit.at === "") wrong.push(`${name} is refused nowhere in particular`);
      } else if (!OF_THE_CAR.test(name) && JSON.stringify(kit) !== JSON.stringify(base) && dead(kit).length > 0)
        wrong.push(`${name}: ${dead(kit)}`);
    }
    expect(wrong).toEqual([]);
  });
});
