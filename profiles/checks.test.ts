import { describe, expect, it } from "vitest";
import type { KitProfile } from "../core/model/profile";
import { buildLeaflet } from "./archetypes";
import { demoDocuments, shippedLeaflets, shippedLibrary } from "./library";
import { checkLeaflet, checkProfile, readLeaflet } from "./read";

const { car, variant, kit } = demoDocuments();
const changed = <T>(document: T, change: (d: T) => void): T => {
  const copy = structuredClone(document);
  change(copy);
  return copy;
};

describe("a document that its schema cannot refuse", () => {
  const bad: [string, unknown, RegExp][] = [
    [
      "more contacts than ways",
      changed(kit, (k) => {
        const connector = k.parts[0]?.ports[0]?.connector;
        if (connector) connector.ways = 2;
      }),
      /Interface module, main plug.*4 contacts in a housing of 2 ways/,
    ],
    [
      "a choice that is not there, deep in a condition",
      changed(kit, (k) => {
        k.card.push({ say: "A line", when: { all: [{ not: { choice: "soundPath", is: ["horn"] } }] } });
      }),
      /condition on “soundPath”.*no option “horn”/,
    ],
    [
      "a step of the kit after one that is not there",
      changed(kit, (k) => {
        const minutes = { low: 1, likely: 2, high: 3 };
        k.steps = [{ id: "own", title: "Own step", detail: "x", after: ["radio-out"], minutes }];
      }),
      /step “Own step”.*“radio-out”, which is not in the plan/,
    ],
    [
      "a monitor that watches nothing",
      { ...kit, monitors: [{ id: "m", by: "radio", code: "B1A15", say: "x" }] },
      /monitor “m”.*Say what it watches/,
    ],
    [
      "a fault code that is none",
      { ...kit, monitors: [{ id: "m", by: "radio", code: "X1", say: "x", fitted: ["radio"] }] },
      /monitors\[0\] \(m\) › code.*B1234/,
    ],
    [
      "two monitors of one name",
      { ...kit, monitors: [1, 2].map(() => ({ id: "m", by: "radio", code: "B1A15", say: "x", fitted: ["radio"] })) },
      /monitor “m”.*listed twice/,
    ],
    [
      "a normal state that ends before it begins",
      {
        ...kit,
        normal: [
          {
            id: "n",
            title: "x",
            seen: "x",
            why: "x",
            remedy: "x",
            functions: ["phonePicture"],
            lastsS: { min: 9, max: 3 },
          },
        ],
      },
      /normal\[0\] \(n\) › lastsS: min must not be over max/,
    ],
    [
      "a car without length",
      { ...car, figures: { wheelbaseMm: 0 } },
      /figures.*wheelbaseMm: wheelbase is at least 1500 mm/,
    ],
    [
      "a plug used twice",
      changed(kit, (k) => k.plug.push({ id: "again", a: "harness.car", b: "loom.mic", say: "x" })),
      /“k-car” and “again”.*harness\.car/,
    ],
    [
      "a contact listed twice",
      changed(kit, (k) => {
        const port = k.parts[0]?.ports[0];
        const [first] = port?.contacts ?? [];
        if (first) port?.contacts.push(first);
      }),
      /listed twice/,
    ],
    [
      "a part listed twice",
      changed(kit, (k) => k.parts.push(structuredClone(k.parts[0] as KitProfile["parts"][number]))),
      /part “module”.*listed twice/,
    ],
    [
      "a connection listed twice",
      changed(car, (c) => c.links.push({ id: "loom-mic", a: "loom.wheel", b: "carMic.main" })),
      /connection “loom-mic”/,
    ],
    [
      "updates in a circle",
      changed(variant, (v) =>
        v.firmware?.updates.push({ from: "R2-260", to: "R2-118", minutes: 1, how: "x", sideEffects: [] }),
      ),
      /R2-118 → R2-204 → R2-260 → R2-118/,
    ],
    [
      "an outline that crosses itself",
      changed(car, (c) => {
        const [shape] = c.drawings?.dash?.shapes ?? [];
        if (shape)
          shape.outline = [
            [0, 0],
            [10, 10],
            [10, 0],
            [0, 10],
          ];
      }),
      /shape “dash” of the dash.*sides 1 and 3 cross/,
    ],
    [
      "an outline with two corners",
      changed(car, (c) => {
        const zone = c.drawings?.plan?.zones[0];
        if (zone)
          zone.outline = [
            [0, 0],
            [10, 10],
          ];
      }),
      /at least three corners/,
    ],
    [
      "a drawn panel that the strip plan does not have",
      changed(car, (c) => {
        const shape = c.drawings?.dash?.shapes.find((s) => s.panel);
        if (shape) shape.panel = "hat rack";
      }),
      /no panel “hat rack”/,
    ],
    [
      "a drawn socket that the part does not have",
      changed(variant, (v) => v.parts[0]?.back?.sockets.push({ port: "tea", at: [1, 1] })),
      /no plug “tea”/,
    ],
    [
      "strip steps in a circle",
      changed(car, (c) => c.stripPlan.steps[0]?.after.push("radio-out")),
      /wait for each other/,
    ],
    [
      "a default option that is none",
      changed(kit, (k) => {
        const [choice] = k.choices;
        if (choice) choice.default = "shouting";
      }),
      /default option “shouting”/,
    ],
    [
      "a condition on no choice",
      changed(kit, (k) => k.needs.push({ kind: "tool", say: "x", when: { choice: "colour", is: ["red"] } })),
      /no such choice/,
    ],
    [
      "a condition on no option",
      changed(kit, (k) => k.needs.push({ kind: "tool", say: "x", when: { choice: "soundPath", is: ["red"] } })),
      /no option “red”/,
    ],
    [
      "a loudspeaker that is not in the car",
      changed(car, (c) => c.drawings?.plan?.speakers?.push({ contact: "speakers.cones.TOP", at: [0, 0] })),
      /no contact “speakers.cones.TOP”/,
    ],
    [
      "a choice that depends on one asked after it",
      changed(kit, (k) => {
        const [choice] = k.choices;
        const last = k.choices.at(-1);
        if (choice && last) choice.when = { choice: last.id, is: [last.default] };
      }),
      /a choice that stands before it/,
    ],
    ["a switch that is no setting", changed(kit, (k) => k.switchBank?.switches.push("sw99")), /no setting “sw99”/],
    [
      "an unknown kind of signal",
      changed(kit, (k) => {
        const [contact] = k.parts[0]?.ports[0]?.contacts ?? [];
        if (contact) (contact as { kind: string }).kind = "steam";
      }),
      /contacts\[0\].*kind/,
    ],
    [
      "a lead of negative length",
      changed(kit, (k) => {
        for (const p of k.parts) if (p.id === "usbLead") p.lengthM = -1;
      }),
      /parts\[\d+\].*lengthM/,
    ],
    [
      "a way of no length",
      changed(car, (c) => {
        const [run] = c.runs ?? [];
        if (run) run.lengthM = 0;
      }),
      /runs\[0\].*lengthM/,
    ],
    [
      "a way that leads nowhere",
      changed(car, (c) => {
        const [run] = c.runs ?? [];
        if (run) run.to = run.from;
      }),
      /begins and ends at “radio shaft”/,
    ],
    [
      "a fuse of an unknown family",
      changed(car, (c) => {
        const [fuse] = c.fusePanel ?? [];
        if (fuse) (fuse as { family: string }).family = "torpedo";
      }),
      /fusePanel\[0\].*family/,
    ],
    [
      "a fuse rating that is not made",
      changed(car, (c) => {
        const [fuse] = c.fusePanel ?? [];
        if (fuse) fuse.ratingA = 12;
      }),
      /blade fuse has one of 2, 3, 5/,
    ],
    [
      "a housing with no rows",
      changed(kit, (k) => {
        const connector = k.parts[0]?.ports[0]?.connector;
        if (connector) connector.rows = 0;
      }),
      /rows/,
    ],
    [
      "a wire thinner than a hair",
      changed(kit, (k) => {
        for (const p of k.parts) if (p.id === "harness" && p.joins?.[0]) p.joins[0].mm2 = 0.001;
      }),
      /mm2/,
    ],
    [
      "a contact moved from nowhere",
      changed(kit, (k) =>
        k.sets.push({
          setting: "module.sw1",
          value: "on",
          means: "contacts",
          say: "Move it",
          minutes: 1,
          moves: [{ from: "harness.car.99", to: "harness.radio.1" }],
        }),
      ),
      /no contact harness\.car\.99 to move/,
    ],
    [
      "a lead that the kit does not bring",
      changed(kit, (k) => k.leads?.push({ part: "rope", from: "radio shaft", to: "sill" })),
      /no part “rope”/,
    ],
    [
      "a place named twice",
      changed(car, (c) => c.places?.push({ name: "sill", surface: "metal", airy: false, byHand: false })),
      /place “sill”.*listed twice/,
    ],
    [
      "a ground with three kinds",
      changed(kit, (k) => {
        for (const p of k.parts) if (p.id === "kitAntenna") p.settings?.[0]?.values.push("in the sea");
      }),
      /has 3 values/,
    ],
  ];
  it.each(bad)("is refused: %s", (_, document, message) => {
    expect(() => checkProfile(document)).toThrow(message);
  });
  it("has cases", () => expect(bad.length).toBeGreaterThan(9));

  it("keeps scripts in texts as texts", () => {
    const text = "<script>alert(1)</script>";
    expect(checkProfile({ ...kit, title: text }).title).toBe(text);
  });
});

describe("leaflets", () => {
  const leaflets = shippedLeaflets();

  it("build documents that pass the same door, deterministically", () => {
    const cars = shippedLibrary().flatMap((p) => (p.document === "car" ? [p] : []));
    for (const l of leaflets) {
      const once = buildLeaflet(l, cars);
      expect(checkProfile(once)).toEqual(JSON.parse(JSON.stringify(once)));
      expect(JSON.stringify(buildLeaflet(l, cars))).toBe(JSON.stringify(once));
    }
    expect(leaflets.length).toBeGreaterThan(30);
  });

  it("are refused with the field that is wrong", () => {
    const inlay = leaflets.find((l) => l.id === "pellimar-inlay-5");
    expect(() => checkLeaflet({ ...inlay, formats: ["wide"] })).toThrow(/formats\[0\]/);
    expect(() => checkLeaflet({ archetype: "teapot" })).toThrow(/no archetype “teapot”/);
    expect(() => readLeaflet("{")).toThrow(/not JSON/);
    const radio = leaflets.find((l) => l.archetype === "variant");
    expect(() => radio && buildLeaflet(radio, [])).toThrow(/no car/);
  });
});
