import { describe, expect, it } from "vitest";
import type { CodingMap } from "../core/coding/map";
import { withFields } from "../core/coding/word";
import { readFaultCodes } from "../core/intake/fault-codes";
import type { OpenedWith } from "../core/job/job";
import { shippedLibrary } from "../profiles/library";
import { jobOf } from "../tests/support/jobs";
import { standInCar } from "./bench";
import { newUnits } from "./control-units";
import { scanStandIn } from "./scan";

const library = shippedLibrary();
const find = (id: string) => library.find((p) => p.id === id);
const FJELL = {
  car: find("kestrane-fjell-11"),
  variant: find("kestrane-fjell-11-f1"),
  kit: find("kestrane-sister-s4"),
} as OpenedWith;
const MAP = find("kestrane-fjell-11-words") as CodingMap;

const codes = (text: string) => {
  const { codes, problems } = readFaultCodes(text);
  expect(problems).toEqual([]);
  return codes.map((c) => c.code).sort();
};

describe("the stand-in car's fault memory", () => {
  const { plan, state } = jobOf(FJELL);
  const base = { plan, state, fault: null, map: null, units: null };

  it("reads the same for the same job, and before the work holds old codes alone", () => {
    const texts = Array.from({ length: 20 }, (_, seed) => scanStandIn({ ...base, seed }));
    expect(texts.map((_, seed) => scanStandIn({ ...base, seed }))).toEqual(texts);
    expect(new Set(texts.flatMap(codes))).toEqual(new Set(["B1A42-11", "U0140"]));
  });

  it("is one memory: asked as text or through the control units", () => {
    const text = (seed: number) =>
      codes(scanStandIn({ ...base, seed })).filter((c) => c === "U0140" || c === "B1A42-11");
    for (let seed = 0; seed < 20; seed++) {
      const asked = codes(scanStandIn({ ...base, map: MAP, seed }));
      // A radio that the gateway does not list does not answer.
      expect(text(seed)).toEqual(expect.arrayContaining(asked.filter((c) => c === "U0140" || c === "B1A42-11")));
    }
  });

  it("holds what the monitors of the car as it stands would store, and follows the coded words", () => {
    const plugged = { ...state, plugged: new Set(plan.connections.map((c) => c.link)), tapLit: true };
    const car = standInCar(plan, plugged, null, MAP);
    const units = newUnits(car, 3);
    const scan = () => codes(scanStandIn({ ...base, state: plugged, map: MAP, units, seed: 3 }));
    const word = (unit: string, id: string, field: string, raw: number) => {
      const found = MAP.units.find((u) => u.id === unit)?.words.find((w) => w.id === id);
      const own = found?.fields.find((f) => f.id === field);
      const held = units.units[unit];
      if (!found || !own || !held) throw new Error(field);
      held.words[id] = withFields(found, held.words[id] ?? [], new Map([[own, raw]]));
    };
    word("gateway", "list", "radio", 1);
    word("gateway", "bus", "radioBus", 2);
    word("radio", "sound", "tweeters", 1);
    expect(scan()).toContain("B1A15");
    word("radio", "sound", "tweeters", 0);
    expect(scan()).not.toContain("B1A15");
  });
});
