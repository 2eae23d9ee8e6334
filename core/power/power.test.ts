import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Lit } from "../log/kinds/connect/feed-test";
import type { ReadingKind } from "../log/kinds/connect/reading";
import type { FusePosition } from "../model/profile";
import { crankDip, type Draw, daysToDoubtfulStart, loadOf } from "./budget";
import { forbidden, rankFeeds } from "./feed";
import { FUSE_COLOURS, fuseFor, openingTimeS, tapFor } from "./fuse";
import { interpret, READINGS, readNumber } from "./readings";
import { dropV, gaugeAreaMm2, gaugeDiameterMm, PowerError, parallelOhm, smallestWire, wireOhm } from "./wire";

const FEET_PER_KM = 1000 / 0.3048;

describe("wires", () => {
  it.each([
    // ASTM B258.
    [12, 3.309],
    [14, 2.081],
    [16, 1.309],
    [18, 0.823],
    [20, 0.518],
    [22, 0.326],
  ])("gauge %i has %f mm²", (gauge, area) => {
    expect(gaugeAreaMm2(gauge)).toBeCloseTo(area, 3);
  });

  it("gauge 36 and 0000 are the two ends by which the scale is made", () => {
    expect(gaugeDiameterMm(36)).toBeCloseTo(0.127, 9);
    expect(gaugeDiameterMm(-3)).toBeCloseTo(11.684, 3);
  });

  it.each([
    // Copper wire tables, NBS Handbook 100 (1966), ohm per 1000 feet at 20 °C; from memory.
    [10, 0.9989],
    [12, 1.588],
    [14, 2.525],
    [16, 4.016],
    [18, 6.385],
    [20, 10.15],
    [22, 16.14],
  ])("gauge %i has %f ohm per 1000 feet", (gauge, ohm) => {
    const perKm = wireOhm({ lengthM: 100, areaMm2: gaugeAreaMm2(gauge), tempC: 20 }) * 10;
    expect(perKm / FEET_PER_KM / (ohm / 1000)).toBeCloseTo(1, 3);
  });

  it("grow in resistance by 0.393 % a kelvin", () => {
    const at = (tempC: number) => wireOhm({ lengthM: 58, areaMm2: 1, tempC });
    expect(at(20)).toBeCloseTo(1, 12);
    expect(at(120)).toBeCloseTo(1.393, 9);
  });

  it("lose twice as much with a return wire", () => {
    const run = { currentA: 10, lengthM: 2.9, tempC: 20 };
    expect(dropV({ ...run, returnWire: false }, 1)).toBeCloseTo(0.5, 9);
    expect(dropV({ ...run, returnWire: true }, 1)).toBeCloseTo(1, 9);
  });

  it("are chosen by the drop or by the fuse, never thinner than one of them asks", () => {
    const short = { currentA: 2, lengthM: 1, returnWire: false, tempC: 40 };
    expect(smallestWire(short, 0.3, 3)).toMatchObject({ size: { areaMm2: 0.35 }, because: "smallest" });
    expect(smallestWire(short, 0.3, 10)).toMatchObject({ size: { areaMm2: 1 }, because: "fuse", gauge: 16 });
    expect(smallestWire({ ...short, lengthM: 8 }, 0.3, 3)).toMatchObject({ size: { areaMm2: 1 }, because: "drop" });
    expect(smallestWire({ ...short, currentA: 80, lengthM: 10 }, 0.3, 3)).toBeNull();
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        fc.double({ min: 0.1, max: 8, noNaN: true }),
        (currentA, lengthM) => {
          const run = { currentA, lengthM, returnWire: true, tempC: 60 };
          const found = smallestWire(run, 0.5, 5);
          if (found) expect(found.dropV).toBeLessThanOrEqual(0.5);
        },
      ),
    );
  });

  it("refuse lengths and currents that cannot be", () => {
    expect(() => wireOhm({ lengthM: -1, areaMm2: 1, tempC: 20 })).toThrow(PowerError);
    expect(() => smallestWire({ currentA: Number.NaN, lengthM: 1, returnWire: false, tempC: 20 }, 0.3, 3)).toThrow(
      /current/,
    );
  });
});

describe("resistances side by side", () => {
  it("are those of the worked example", () => {
    // OpenStax, University Physics volume 2, example 10.3: 1.00, 2.00 and 2.00 ohm in parallel are 0.50 ohm. From memory.
    expect(parallelOhm(1, 2, 2)).toBeCloseTo(0.5, 12);
  });

  it("give 60 ohm for two bus terminators, 40 for three, and nothing beside a short", () => {
    expect(parallelOhm(120, 120)).toBe(60);
    expect(parallelOhm(120, 120, 120)).toBeCloseTo(40, 12);
    expect(parallelOhm(120, 0)).toBe(0);
  });
});

describe("blade fuses", () => {
  it("open within the times of the standard and hold a tenth over their rating", () => {
    // ISO 8820-3, from memory.
    expect(openingTimeS(10, 11)).toBeNull();
    expect(openingTimeS(10, 13.5)).toEqual({ least: 0.75, most: 600 });
    expect(openingTimeS(10, 20)?.least).toBeCloseTo(0.15, 9);
    expect(openingTimeS(10, 20)?.most).toBeCloseTo(5, 9);
    expect(openingTimeS(10, 35)).toEqual({ least: 0, most: 0.5 });
    expect(openingTimeS(10, 12)).toEqual({ least: 0.75, most: Number.POSITIVE_INFINITY });
  });

  it("open faster with more current", () => {
    fc.assert(
      fc.property(
        fc.double({ min: 13.5, max: 34, noNaN: true }),
        fc.double({ min: 0.01, max: 1, noNaN: true }),
        (i, more) => {
          const [a, b] = [openingTimeS(10, i), openingTimeS(10, i + more)];
          expect(b?.most ?? 0).toBeLessThanOrEqual((a?.most ?? 0) + 1e-9);
        },
      ),
    );
  });

  it("have a colour for each rating, and no other rating", () => {
    expect(FUSE_COLOURS.get(7.5)).toBe("brown");
    expect(() => openingTimeS(6, 10)).toThrow(/no blade fuse of 6 A.*2, 3, 5/s);
  });

  it("are chosen for the steady load and survive its start", () => {
    expect(fuseFor(0.7)).toBe(2);
    expect(fuseFor(1.7)).toBe(3);
    expect(fuseFor(1.5, 5.4, 1)).toBe(5);
    // At 120 % of 5 A the standard promises no time at all, so the next one is taken.
    expect(fuseFor(1.5, 6, 1)).toBe(7.5);
    expect(fuseFor(40)).toBeNull();
  });

  it("stay behind a tap as they were, the added one sized for the added load", () => {
    expect(tapFor({ ratingA: 15, family: "mini" }, 1.7)).toMatchObject({
      originalA: 15,
      addedA: 3,
      colours: { original: "blue", added: "violet" },
      family: "mini",
    });
    expect(tapFor({ ratingA: 15, family: "mini" }, 12)).toBeNull();
  });
});

describe("feeds", () => {
  const position = (id: string, circuit: string, more: Partial<FusePosition> = {}): FusePosition => ({
    id,
    circuit,
    ratingA: 10,
    family: "mini",
    live: [],
    used: true,
    ...more,
  });
  const panel = [
    position("F1", "Airbag", { live: ["on"] }),
    position("F2", "Rear wiper", { live: ["accessory", "on"] }),
    position("F3", "free", { used: false }),
    position("F4", "Radio memory", { live: ["off", "accessory", "on"] }),
    position("F5", "Seat ventilation", { live: ["on"] }),
  ];
  const load = { steadyA: 1, peakA: 2 };
  const rank = (tests: [string, Lit][] = []) => rankFeeds(panel, load, new Map(tests));
  const order = (tests: [string, Lit][] = []) => rank(tests).map((c) => c.position.id);

  it("never come from a circuit on which somebody's life depends, whatever the tester says", () => {
    for (const circuit of [
      "Airbag unit",
      "ABS pump",
      "Electric steering",
      "Engine control",
      "Low beam left",
      "Rear fog",
      "Turn indicators",
      "Emergency call",
    ])
      expect([circuit, forbidden(position("x", circuit))]).not.toEqual([circuit, null]);
    expect(forbidden(position("x", "Rear wiper"))).toBeNull();
    expect(forbidden(position("x", "Parking heater", { critical: true }))).toMatch(/critical/);
    const [airbag] = rank([["F1", { on: true, off: false, doorOpen: false }]]).filter((c) => c.position.id === "F1");
    expect(airbag).toMatchObject({ verdict: "unfit", forbidden: "airbag", ask: null });
    expect(order().at(-1)).toBe("F1");
  });

  it("are ranked unused first, then harmless, then others, always-live ones out", () => {
    expect(order()).toEqual(["F3", "F2", "F5", "F4", "F1"]);
  });

  it("ask the state that decides next, and are good after three answers", () => {
    const free = (lit: Lit) => rank([["F3", lit]]).find((c) => c.position.id === "F3");
    expect(free({})?.ask).toBe("on");
    expect(free({ on: true })).toMatchObject({ ask: "off", verdict: "possible" });
    expect(free({ on: true, off: false })?.ask).toBe("doorOpen");
    expect(free({ on: true, off: false, doorOpen: false })).toMatchObject({ verdict: "good", ask: "accessory" });
    expect(free({ on: true, off: false, doorOpen: false, accessory: true, start: true })?.ask).toBeNull();
  });

  it("fall out by one answer of the tester", () => {
    for (const lit of [{ off: true }, { on: false }, { on: true, off: false, doorOpen: true }] as Lit[])
      expect(rank([["F3", lit]]).find((c) => c.position.id === "F3")).toMatchObject({ verdict: "unfit", ask: null });
    expect(order([["F3", { on: false }]])[0]).toBe("F2");
  });

  it("stay dark while cranking only behind one that holds", () => {
    const good: Lit = { on: true, off: false, doorOpen: false };
    expect(
      order([
        ["F2", { ...good, start: true }],
        ["F5", { ...good, start: false }],
      ])[0],
    ).toBe("F2");
  });
});

describe("load and battery", () => {
  const draw = (more: Partial<Draw>): Draw => ({
    id: "m",
    name: "Module",
    onA: 1,
    peakA: 2,
    sleepMa: 5,
    duty: 1,
    minimumV: 9,
    ...more,
  });

  it("adds up by duty, peaks as if all start at once", () => {
    expect(loadOf([draw({}), draw({ id: "c", onA: 0.4, duty: 0.25, peakA: 0.6, sleepMa: 0 })])).toMatchObject({
      steadyA: 1.1,
      peakA: 2.6,
      sleepMa: 5,
    });
  });

  it("stands as many days as the spare charge lasts", () => {
    // 60 Ah at three quarters, half needed: 15 Ah spare; 25 mA for 600 h are 25 days.
    const battery = { capacityAh: 60, charge: 0.75, startNeeds: 0.5 };
    expect(daysToDoubtfulStart(battery, 25)).toBeCloseTo(25, 9);
    expect(daysToDoubtfulStart({ ...battery, charge: 0.4 }, 25)).toBe(0);
    expect(daysToDoubtfulStart(battery, 0)).toBe(Number.POSITIVE_INFINITY);
  });

  it("tells which parts restart while the engine is cranked", () => {
    const run = { currentA: 1, lengthM: 1, returnWire: false, tempC: 20, areaMm2: 1 };
    const battery = { openV: 12.6, innerOhm: 0.006, crankA: 250 };
    const dip = crankDip([draw({}), draw({ id: "hot", minimumV: 11.5 })], run, battery);
    expect(dip.voltageV).toBeCloseTo(12.6 - 1.5 - 1 / 58, 9);
    expect(dip.restarts.map((d) => d.id)).toEqual(["hot"]);
  });
});

describe("meter readings", () => {
  const spec = (kind: ReadingKind) => READINGS.find((r) => r.kind === kind) as (typeof READINGS)[number];

  it.each<[string, ReadingKind, number]>([
    ["12,4", "supplyOn", 12.4],
    [" 12.4 V ", "supplyOn", 12.4],
    ["350 mV", "drop", 0.35],
    ["60", "pairOhm", 60],
    ["1,2 kΩ", "pairOhm", 1200],
    ["OL", "pairOhm", 10_000_000],
  ])("read %s", (text, kind, value) => {
    expect(readNumber(text, spec(kind))).toEqual({ ok: true, value: expect.closeTo(value, 9) });
  });

  it.each<[string, ReadingKind, RegExp]>([
    ["twelve", "supplyOn", /not a number/],
    ["1,2,3", "supplyOn", /not a number/],
    ["-3", "supplyOn", /probes are exchanged/],
    ["120", "supplyOn", /more than can be here/],
    ["60 ohm", "supplyOn", /measured in V, not in Ω/],
    ["", "pairOhm", /not a number/],
  ])("refuse %s with the remedy", (text, kind, message) => {
    expect(readNumber(text, spec(kind))).toEqual({ ok: false, message: expect.stringMatching(message) });
  });

  it.each<[ReadingKind, number, string, RegExp]>([
    // ISO 11898-2, from memory: 60 ohm with both terminators, 120 with one missing, 40 with one too many.
    ["pairOhm", 60, "good", /Both terminators/],
    ["pairOhm", 120, "stop", /One terminator is missing/],
    ["pairOhm", 40, "watch", /one too many|One terminator too many/],
    ["pairOhm", 0.4, "stop", /Short/],
    // Recessive 2.5 V on both; dominant 3.5 and 1.5: the mean with traffic lies a little to each side.
    ["busHigh", 2.7, "good", /bus high/],
    ["busHigh", 2.3, "stop", /exchanged/],
    ["busLow", 2.3, "good", /bus low/],
    ["busLow", 2.7, "stop", /exchanged/],
    ["busHigh", 2.5, "watch", /middle/],
    ["supplyOff", 12.3, "stop", /Live with the key off/],
    ["supplyOn", 12.5, "good", /resting/],
    ["drop", 0.9, "stop", /Too much/],
    ["reverseLamp", 12.1, "good", /reverse lamp/],
  ])("%s of %f is %s", (kind, value, tone, says) => {
    expect(interpret(kind, value)).toMatchObject({ tone, says: expect.stringMatching(says) });
  });

  it("have a word for every value from nothing to the most", () => {
    for (const r of READINGS)
      for (let k = 0; k <= 50; k++) expect(interpret(r.kind, (r.most * k) / 50).says).not.toBe("");
  });
});
