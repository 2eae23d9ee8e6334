/** Archetypes over everything their leaflets can say: what they build is sound, and a kit made for a car fits it. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { checkConnections } from "../../core/connect/rules";
import { ledger } from "../../core/fit/ledger";
import { rankKits } from "../../core/fit/rank";
import { resolveFit } from "../../core/fit/resolve-fit";
import { planInput } from "../../core/job/connect";
import { planJob } from "../../core/job/plan";
import { composeStock, kitPartIds } from "../../core/model/compose";
import { predictedCodes } from "../../core/model/monitors";
import { Model } from "../../core/model/outcome";
import type { CarProfile, KitProfile, VariantProfile } from "../../core/model/profile";
import { shippedLeaflets, shippedLibrary } from "../library";
import { checkProfile } from "../read";
import { buildLeaflet, type Leaflet } from "./index";
import { radioFeatures } from "./radio/features";

const PLUG = { family: "Test 40", ways: 40, keying: "T" };
const LINK = { family: "Test video 4", ways: 4, keying: "V" };

const carLeaflets = fc.record({
  gearbox: fc.constantFrom("automatic" as const, "manual" as const),
  key: fc.constantFrom("bus" as const, "wire" as const),
  sound: fc.constantFrom("radio" as const, "ring" as const),
  rearCamera: fc.boolean(),
  wheelKeys: fc.boolean(),
  climateZones: fc.integer({ min: 0, max: 2 }),
  satelliteAntenna: fc.boolean(),
  handsFreeModule: fc.boolean(),
  tweeters: fc.boolean(),
  emergencyCall: fc.boolean(),
});
const screens = fc.record({
  place: fc.constantFrom("separate" as const, "behind one front" as const, "upper of two" as const),
  format: fc.constantFrom("800x480", "1024x600", "1280x480"),
  touch: fc.boolean(),
  reversible: fc.boolean(),
});
const features = fc.record({
  screen: fc.option(screens, { nil: undefined }),
  lineIn: fc.boolean(),
  bluetooth: fc.boolean(),
  usb: fc.boolean(),
  videoIn: fc.boolean(),
  navigation: fc.boolean(),
  satellite: fc.boolean(),
  phoneKey: fc.boolean(),
  speechIn: fc.boolean(),
  knob: fc.boolean(),
  frontKeys: fc.boolean(),
  sided: fc.boolean(),
  watchesTweeters: fc.boolean(),
  amplifier: fc.constantFrom("standard" as const, "premium" as const),
});

type CarChoice = typeof carLeaflets extends fc.Arbitrary<infer T> ? T : never;
type Features = typeof features extends fc.Arbitrary<infer T> ? T : never;

function makeCar(choice: CarChoice): CarProfile {
  const leaflet = {
    archetype: "car",
    id: "test-car",
    maker: "Sundrey",
    model: "Test",
    years: { from: 2015, to: 2019 },
    driveSide: "left",
    countries: ["NO"],
    radioPlug: PLUG,
    pins: { high: "21", low: "22", mic: "23", battery: "24", ground: "25", accessory: "26", reverse: "27" },
    busAtRadio: true,
    identification: [],
    questions: [],
    sourceNote: "Made by a test.",
    ...choice,
  } satisfies Leaflet;
  return checkProfile(buildLeaflet(leaflet, [])) as CarProfile;
}

function makeRadio(car: CarProfile, f: Features): VariantProfile {
  const { screen, ...rest } = f;
  const leaflet = {
    archetype: "variant",
    id: "test-radio",
    car: car.id,
    title: "Test radio",
    features: radioFeatures.parse({
      name: "Test radio",
      ...rest,
      ...(screen ? { screen: { ...screen, plug: LINK } } : {}),
    }),
    identifyingFeatures: [],
    answers: {},
    share: 1,
    sourceNote: "Made by a test.",
  } satisfies Leaflet;
  return checkProfile(buildLeaflet(leaflet, [car])) as VariantProfile;
}

const interfaces = fc.record({
  build: fc.constantFrom(
    "one box" as const,
    "board inside the radio" as const,
    "board behind the upper screen" as const,
    "two boxes" as const,
  ),
  blank: fc.boolean(),
  splitter: fc.boolean(),
  harness: fc.boolean(),
  keyBoard: fc.boolean(),
  takesKeys: fc.boolean(),
  opened: fc.boolean(),
  menu: fc.subarray(["cameraType", "soundPath", "pictureSize", "autoReturn", "homeKey", "motionLock"] as const),
  feed: fc.constantFrom("bus" as const, "fuse" as const),
  soundPath: fc.constantFrom("line" as const, "carBluetooth" as const, "usbSound" as const),
  deletesPairing: fc.boolean(),
  frontCamera: fc.boolean(),
  count: fc.integer({ min: 6, max: 8 }),
});
type InterfaceChoice = typeof interfaces extends fc.Arbitrary<infer T> ? T : never;

function makeKit(car: CarChoice, f: Features, i: InterfaceChoice): KitProfile {
  const leaflet = {
    archetype: "interface",
    id: "test-kit",
    title: "Test kit",
    maker: "Pellimar",
    price: 100,
    fitMinutes: { low: 10, likely: 20, high: 30 },
    sourceNote: "Made by a test.",
    box: [],
    card: [],
    build: i.build,
    radioPlug: PLUG,
    pins: { high: "21", low: "22", mic: "23", battery: "24", ground: "25", accessory: "26", reverse: "27" },
    ring: car.sound === "ring",
    pictureLink: LINK,
    reversible: false,
    mirroring: true,
    formats: ["1280x720", f.screen?.format ?? "800x480", "640x480"],
    touch: f.screen?.touch ?? false,
    soundPaths: [i.soundPath],
    deletesPairing: i.deletesPairing,
    frontCamera: i.frontCamera,
    rearCamera: false,
    holdS: { min: 2, max: 4 },
    blank: i.blank,
    splitter: i.splitter && i.harness,
    harness: i.harness,
    keyReader: i.keyBoard && f.frontKeys ? "key board" : "bus",
    takesKeys: i.takesKeys,
    cameraHandle: false,
    handleLead: "not said" as const,
    ...(i.opened
      ? {
          opening: {
            screws: [{ count: 4, lengthMm: 10, place: "corners" }],
            drive: "T8",
            contacts: "towards the board" as const,
            spacers: 4,
            brackets: true,
          },
        }
      : {}),
    switches: { count: i.count, format: [1, 2] as [number, number], front: 3, touch: 4, olderKeys: 5 },
    wires: [],
    menu: i.menu.map((entry) => ({ entry, where: "Menu" })),
  } satisfies Leaflet;
  return checkProfile(buildLeaflet(leaflet, [])) as KitProfile;
}

/** A radio on which an interface can sit and whose sound path is there. */
function suits(car: CarChoice, f: Features, i: InterfaceChoice): boolean {
  const sound = { line: f.lineIn, carBluetooth: f.bluetooth, usbSound: f.usb }[i.soundPath];
  // Without the harness the module is on no bus: only a key board tells it which picture is wanted.
  const key = i.keyBoard && f.frontKeys ? true : i.harness && car.wheelKeys;
  return f.screen !== undefined && sound && key;
}

describe("a leaflet that is built", () => {
  const cars = shippedLibrary().flatMap((p) => (p.document === "car" ? [p] : []));

  it.each(shippedLeaflets().map((l) => [l.id, l] as const))("stays as it was answered: %s", (_, leaflet) => {
    const before = structuredClone(leaflet);
    buildLeaflet(leaflet, cars);
    expect(leaflet).toEqual(before);
  });
});

describe("radios of every kind in cars of every kind", () => {
  it("are documents that pass the door, and every function of theirs works", () => {
    fc.assert(
      fc.property(carLeaflets, features, (choice, f) => {
        const car = makeCar(choice);
        const system = composeStock(
          car,
          makeRadio(car, f.satellite && !choice.satelliteAntenna ? { ...f, satellite: false } : f),
        );
        const model = new Model(system);
        const failing = system.functions.flatMap((fn) =>
          fn.situations.filter((s) => model.try(fn, s.id).outcome.kind !== "ok").map((s) => `${fn.id}/${s.id}`),
        );
        expect(failing).toEqual([]);
        // As built no control unit finds anything to complain about.
        expect(predictedCodes(model, {})).toEqual([]);
        expect(system.functions.length).toBeGreaterThanOrEqual(2);
      }),
      { numRuns: 120, seed: 11 },
    );
  });

  it("take an interface made for them: all it promises comes, nothing the law asks for goes, no rule is broken", () => {
    let fitted = 0;
    fc.assert(
      fc.property(carLeaflets, features, interfaces, (choice, f, i) => {
        if (!suits(choice, f, i)) return;
        const car = makeCar(choice);
        const variant = makeRadio(car, { ...f, satellite: false, videoIn: false });
        const kit = makeKit(choice, f, i);
        const choices = { ...(i.frontCamera ? { frontCamera: "fitted" } : {}), feed: i.feed };
        const resolved = resolveFit({ car, variant, kit }, choices);
        const lines = ledger(resolved.stock, resolved.fitted, resolved.settings, kitPartIds(kit));
        const of = (verdict: string) => lines.filter((l) => l.verdict === verdict).map((l) => l.functionId);
        expect(of("never")).toEqual([]);
        // Only the pairing may be given up, and only where the leaflet says so.
        const mayLose = [
          ...(i.deletesPairing && i.soundPath === "line" ? ["handsFree"] : []),
          // The sound adapter takes the socket of the car.
          ...(i.soundPath === "usbSound" ? ["usbMusic"] : []),
          // A key board that keeps the keys takes them from the radio.
          ...(i.keyBoard && i.takesKeys ? ["frontMenuKey"] : []),
        ];
        expect(of("lost").filter((id) => !mayLose.includes(id))).toEqual([]);
        const findings = checkConnections(
          planInput(planJob({ car, variant, kit }, { choices }), { placed: new Map() }),
        ).filter((x) => x.level !== "note");
        expect(findings.map((x) => `${x.rule} ${x.where}`)).toEqual([]);
        const [best] = rankKits({ car, variant, kits: [kit], wishes: [], firmware: "" });
        expect(best?.verdict.level).not.toBe("impossible");
        fitted++;
      }),
      { numRuns: 220, seed: 5 },
    );
    expect(fitted).toBeGreaterThan(15);
  });

  it("refuse an interface whose plug has another code letter, with that as the reason", () => {
    const choice: CarChoice = {
      gearbox: "automatic",
      key: "bus",
      sound: "radio",
      rearCamera: true,
      wheelKeys: true,
      climateZones: 0,
      satelliteAntenna: false,
      handsFreeModule: false,
      tweeters: false,
      emergencyCall: true,
    };
    const f: Features = {
      screen: { place: "separate", format: "800x480", touch: true, reversible: false },
      lineIn: true,
      bluetooth: true,
      usb: false,
      videoIn: false,
      navigation: false,
      satellite: false,
      phoneKey: false,
      speechIn: false,
      knob: true,
      frontKeys: false,
      sided: false,
      watchesTweeters: true,
      amplifier: "standard",
    };
    const car = makeCar(choice);
    const kit = makeKit(choice, f, {
      build: "one box",
      soundPath: "line",
      deletesPairing: false,
      frontCamera: false,
      blank: false,
      splitter: false,
      harness: true,
      keyBoard: false,
      takesKeys: false,
      opened: false,
      menu: [],
      feed: "bus",
      count: 6,
    });
    for (const part of kit.parts) for (const p of part.ports) if (p.connector?.keying === "T") p.connector.keying = "X";
    const [only] = rankKits({ car, variant: makeRadio(car, f), kits: [kit], wishes: [], firmware: "" });
    expect(only?.verdict).toMatchObject({
      level: "impossible",
      text: expect.stringContaining("Keying X does not go into keying T"),
    });
  });
});
