/**
 * Twenty kinds of work, each planned with the shipped library from the car to the last plug, and the facts of each that
 * make it special. The trade's habits in it are common practice; cars and kits are invented.
 */
import { describe, expect, it } from "vitest";
import { settingValues } from "../core/configure/setting-values";
import { checkConnections } from "../core/connect/rules";
import { dashOf } from "../core/drawing/dash";
import { forOtherKit, offerOf } from "../core/fit/offer";
import { cardOf } from "../core/job/card";
import { planInput } from "../core/job/connect";
import { openNow, planJob } from "../core/job/plan";
import { deliveredValue } from "../core/job/set-state";
import { lengthsOf } from "../core/lengths/job";
import { predictedCodes } from "../core/model/monitors";
import { Model } from "../core/model/outcome";
import type { KitProfile } from "../core/model/profile";
import { jobOf, logOf } from "../tests/support/jobs";
import { buildLeaflet, leaflet } from "./archetypes";
import { shippedLeaflets, shippedLibrary } from "./library";
import { checkProfile } from "./read";

const library = shippedLibrary();

function documents(kitId: string | KitProfile, variantId: string) {
  const kit = typeof kitId === "string" ? library.find((p) => p.document === "kit" && p.id === kitId) : kitId;
  const variant = library.find((p) => p.document === "variant" && p.id === variantId);
  const car = library.find((p) => p.document === "car" && variant?.document === "variant" && p.id === variant.car);
  if (kit?.document !== "kit" || variant?.document !== "variant" || car?.document !== "car")
    throw new Error(`${kitId} on ${variantId} is not in the library`);
  return { car, variant, kit };
}

/** A job planned as far as documents and choices go, in the words that a person reads. */
function work(kitId: string | KitProfile, variantId: string, choices: Record<string, string> = {}) {
  const docs = documents(kitId, variantId);
  const plan = planJob(docs, { choices });
  const offer = offerOf(docs, forOtherKit(jobOf(docs).state), choices, []);
  const of = (verdict: string) => [
    ...new Set(offer.lines.filter((l) => l.verdict === verdict).map((l) => l.functionId)),
  ];
  const steps = [...plan.steps];
  return {
    ...docs,
    plan,
    steps,
    step: (id: string) => {
      const found = steps.find((s) => s.id === id);
      if (!found) throw new Error(`no step ${id} among ${steps.map((s) => s.id)}`);
      return found;
    },
    connections: plan.connections.map((c) => c.say),
    needs: offer.needs.lines.map((l) => l.say),
    sets: plan.sets.map((s) => s.say),
    card: cardOf(plan, { pairing: [] }).join(" "),
    normal: (plan.fitted.normal ?? []).map((n) => n.id),
    gained: of("gained"),
    lost: of("lost"),
    /** Steps of the way back, once all are done. */
    get wayBack() {
      const done = steps.map((s) => ({ kind: "strip.step" as const, data: { step: s.id, direction: "in" as const } }));
      return jobOf(docs, logOf(...done))
        .strip("2026-12-01T08:00:00Z")
        .back.map((t) => t.id);
    },
    places: plan.strip.goals.flatMap((g) => g.place ?? []),
    unreached: unreached(plan),
    leads: (docs.kit.leads ?? []).filter(plan.applies).map((l) => l.part),
    /** Codes with everything as planned, and with one setting as delivered. */
    codes: (setting?: string) => {
      const settings = setting ? { [setting]: deliveredValue(plan.fitted, setting) ?? "" } : {};
      return predictedCodes(new Model(plan.fitted, { settings }), plan.settings).map((c) => c.code);
    },
    works: (fn: string, open: Record<string, string> = {}) => {
      const model = new Model(plan.fitted, { openLinks: open }, plan.settings);
      const spec = plan.fitted.functions.find((f) => f.id === fn);
      if (!spec) throw new Error(`no function ${fn}`);
      return spec.situations.every((s) => model.see(spec, s.id).kind === "ok");
    },
  };
}

function unreached(plan: ReturnType<typeof planJob>): string[] {
  return plan.strip.goals
    .filter(
      (g) =>
        g.place !== undefined &&
        !plan.steps.some((s) => s.reaches?.places?.includes(g.place ?? "")) &&
        !plan.strip.plan.free?.places?.includes(g.place),
    )
    .map((g) => g.id);
}

/** Every job of the list: nothing the law asks for goes, no rule is broken, every place is reached. */
const JOBS: [kind: string, kit: string, variant: string, choices?: Record<string, string>][] = [
  ["board inside the radio", "pellimar-inlay-5", "hollinby-marrow-17-m1"],
  ["board behind the upper screen", "ostrel-upper-2", "sundrey-tarn-21-t1"],
  ["board with key board", "pellimar-inlay-7", "sundrey-heron-20-h1"],
  ["feed from the fuse panel", "brackwater-duo", "velmora-corrie-19-r3", { feed: "fuse" }],
  ["cameras on a car with a factory camera", "brackwater-view", "velmora-corrie-19-r2", { frontCamera: "fitted" }],
  [
    "cameras on a car without one",
    "brackwater-view-h",
    "sundrey-heron-20-h2",
    { frontCamera: "fitted", rearCameraAdded: "fitted" },
  ],
  ["camera added to a mirroring kit", "pellimar-inlay-7", "sundrey-heron-20-h1", { rearCameraAdded: "fitted" }],
  ["module loaded for the car", "orvanto-om9-blank", "velmora-corrie-19-r3"],
  ["bigger screen on a car with one zone", "sundrey-wide-10", "sundrey-heron-20-h2"],
  ["aftermarket radio", "pellimar-free-7", "kestrane-fjell-11-f1"],
  ["sister-car radio with wires", "kestrane-sister-s4", "kestrane-fjell-11-f1", { bus: "wires" }],
  ["sister-car radio with adapter", "kestrane-sister-s4", "kestrane-fjell-11-f1", { bus: "adapter" }],
  ["video and power leads only", "brackwater-bare-2", "sundrey-heron-20-h2"],
  ["navigation module", "brackwater-guide", "sundrey-vale-19-v2", { microphone: "branch" }],
  ["adapter on a video input", "ostrel-line-1", "kestrane-fjell-11-f2"],
  ["hands-free with phone key", "ostrel-talk-key", "hollinby-dunlin-16-l2"],
  ["hands-free with its own button", "ostrel-talk-button", "hollinby-dunlin-16-l1"],
  ["socket upgrade", "velmora-socket-b", "velmora-osk-18-o1"],
  ["radio of a higher level", "hollinby-level-4", "hollinby-dunlin-16-l3"],
  ["optical ring", "orvanto-om8-ring", "kestrane-halden-14-k1"],
];

describe("every kind of work", () => {
  it("is in the library, twenty of them", () => {
    expect(new Set(JOBS.map(([kind]) => kind)).size).toBe(20);
  });

  it.each(JOBS)("%s (%s on %s): is planned whole", (_, kitId, variantId, choices) => {
    const w = work(kitId, variantId, choices);
    const law = w.plan.fitted.functions.filter((f) => f.who === "law").map((f) => f.id);
    expect(w.lost.filter((id) => law.includes(id))).toEqual([]);
    expect(w.gained.length).toBeGreaterThan(0);
    expect(w.unreached).toEqual([]);
    expect(w.codes()).toEqual([]);
    const findings = checkConnections(planInput(w.plan, { placed: new Map() })).filter((f) => f.level !== "note");
    expect(findings.map((f) => `${f.rule} ${f.where}: ${f.text}`)).toEqual([]);
    expect(openNow(w.plan, jobOf(w).state).openLinks).not.toEqual({});
  });
});

describe("a board inside the radio", () => {
  const w = work("pellimar-inlay-5", "hollinby-marrow-17-m1");

  it("opens the unit behind the way into the car, with two lengths of screws and marked brackets", () => {
    const open = w.step("kit-unit-open");
    expect(w.steps.indexOf(open)).toBeGreaterThan(w.steps.findIndex((s) => s.opens?.some((o) => o.b === "radio.main")));
    expect(open.fasteners?.map((f) => [f.count, f.lengthMm])).toEqual([
      [4, 10],
      [6, 6],
    ]);
    expect(open.detail).toMatch(/brackets left and right/);
  });

  it("takes the ribbon off inside, lock bar first, and says on which side its contacts look on the way back", () => {
    const opening = w.steps.filter((s) => s.opens?.some((o) => o.a === "displayLead.radioEnd"));
    expect(opening.map((s) => s.id)).toEqual(["kit-ribbon-off"]);
    expect(opening[0]?.opens?.[0]).toMatchObject({ lock: "slide" });
    expect(opening[0]?.back?.detail).toMatch(/Contacts towards the board.*4 spacers/);
  });

  it("needs no place in the dash and drills nothing: a socket comes out for the leads", () => {
    expect(w.places).not.toContain("glovebox space");
    expect(w.steps.map((s) => s.panel)).not.toContain("glovebox");
    expect(w.step("kit-socket-out").detail).toMatch(/Nothing is drilled/);
    expect(w.kit.needs.some((n) => n.kind === "drilling")).toBe(false);
  });

  it.each([
    ["ostrel-upper-2", { soundPath: "usbSound" }, false],
    ["ostrel-upper-2", { soundPath: "carBluetooth" }, true],
  ])("leaves a socket in into which something plugs: %s with %o", (id, choices, out) => {
    const said = leaflet.parse(shippedLeaflets().find((l) => l.id === id));
    if (said.archetype !== "interface" || !said.opening) throw new Error("no opening");
    const opening = { ...said.opening, socketOut: "USB socket", socketIs: "USB" as const };
    const kit = buildLeaflet({ ...said, opening }, []) as KitProfile;
    // The stick is a person's: in the car of the other choice nothing is in the socket.
    const bare = { ...kit, unplug: [...kit.unplug, { a: "usbStick.plug", b: "usbPanel.front", why: "Not needed." }] };
    const on = work(choices.soundPath === "usbSound" ? kit : bare, "sundrey-tarn-21-t1", choices);
    expect(on.steps.some((s) => s.id === "kit-socket-out")).toBe(out);
    expect(on.needs.some((n) => /^Not done: USB socket out/.test(n))).toBe(!out);
  });
});

describe("a feed from the fuse panel", () => {
  it("is a lead with two connections of its own, only with that choice", () => {
    const fuse = work("brackwater-duo", "velmora-corrie-19-r3", { feed: "fuse" });
    const bus = work("brackwater-duo", "velmora-corrie-19-r3", { feed: "bus" });
    const feeds = (w: typeof fuse) => w.plan.connections.filter((c) => c.link.startsWith("k-feed")).map((c) => c.b);
    expect(feeds(fuse).sort()).toEqual(["loom.fusePanel", "module.feed"]);
    expect(feeds(bus)).toEqual([]);
    expect([fuse.leads.includes("feedLead"), bus.leads.includes("feedLead")]).toEqual([true, false]);
  });

  it("lets the module live without the key message, and it does not live without the feed", () => {
    const fuse = work("brackwater-duo", "velmora-corrie-19-r3", { feed: "fuse" });
    expect(fuse.works("phonePicture")).toBe(true);
    expect(fuse.works("phonePicture", { "k-feed-fuse": "open" })).toBe(false);
    const module = (choice: string) =>
      work("brackwater-duo", "velmora-corrie-19-r3", { feed: choice })
        .plan.fitted.parts.find((p) => p.id === "module")
        ?.needs?.map((n) => n.at);
    expect(module("fuse")).toEqual(["main.1", "main.2", "feed.1"]);
    expect(module("bus")).toEqual(["main.1", "main.2", "main.3", "main.4"]);
  });

  it("waits for a position: an unused live one serves as well as a tapped one", () => {
    const docs = documents("brackwater-duo", "velmora-corrie-19-r3");
    const choices = { feed: "fuse" };
    const unused = docs.car.fusePanel?.find((p) => !p.used);
    expect(openNow(planJob(docs, { choices }), jobOf(docs).state).openLinks?.["k-feed-fuse"]).toMatch(
      /No fuse position is taken/,
    );
    const taken = planJob(docs, {
      choices,
      feed: unused?.id ?? "",
      feedTests: new Map([[unused?.id ?? "", { on: true, off: false, accessory: true, start: true }]]),
    });
    const fn = taken.fitted.functions.find((f) => f.id === "phonePicture");
    expect(fn && new Model(taken.fitted, {}, taken.settings).see(fn, "wireless").kind).toBe("ok");
  });
});

describe("cameras only", () => {
  it("on a car without a factory camera bring the rear view, on a manual car with its wire", () => {
    const w = work("brackwater-view-h", "sundrey-heron-20-h2", { rearCameraAdded: "fitted" });
    expect(w.gained).toContain("addedRearView");
    expect(w.plan.stock.functions.map((f) => f.id)).not.toContain("rearView");
    expect(w.leads).toContain("rearCameraAdded");
  });

  it("come by themselves after reverse or on the key, as chosen", () => {
    const by = (frontMode: string) =>
      work("brackwater-view", "velmora-corrie-19-r2", { frontCamera: "fitted", frontMode });
    expect([by("automatic").gained.includes("frontView"), by("automatic").gained.includes("frontByHand")]).toEqual([
      true,
      false,
    ]);
    expect([by("manual").gained.includes("frontView"), by("manual").gained.includes("frontByHand")]).toEqual([
      false,
      true,
    ]);
    const bank = (w: ReturnType<typeof by>) => w.plan.switches?.switches.find((s) => s.setting === "sw5")?.value;
    expect([bank(by("automatic")), bank(by("manual"))]).toEqual(["off", "on"]);
  });

  it("in a new tailgate handle leave the two wires of the old one cut, and the lead runs along sill and hinge", () => {
    const w = work("brackwater-view-h", "sundrey-heron-20-h2", { rearCameraAdded: "fitted" });
    expect(w.step("kit-handle").detail).toMatch(/stay cut/);
    expect(w.kit.leads?.find((l) => l.part === "rearCameraAdded")).toMatchObject({ to: "tailgate", service: ["sill"] });
    expect(work("brackwater-view-h", "sundrey-heron-20-h2").steps.map((s) => s.id)).not.toContain("kit-handle");
  });

  it.each([
    ["plug", undefined, /No wire is cut/],
    ["not said", "cut", /does not say/],
  ] as const)(
    "in a new handle whose lead is %s are cut off only where there is no plug",
    (handleLead, lasting, says) => {
      const said = shippedLeaflets().find((l) => l.id === "brackwater-view-h");
      const kit = buildLeaflet(leaflet.parse({ ...said, handleLead }), []) as KitProfile;
      const step = kit.steps?.find((s) => s.id === "kit-handle");
      expect([step?.lasting, step?.detail]).toEqual([lasting, expect.stringMatching(says)]);
      expect(kit.needs.filter((n) => /wires? of the old handle/.test(n.say))).toHaveLength(
        handleLead === "plug" ? 0 : 1,
      );
    },
  );

  it("are an option of a mirroring kit as well", () => {
    const w = work("pellimar-inlay-7", "sundrey-heron-20-h1", { rearCameraAdded: "fitted" });
    expect(w.gained).toEqual(expect.arrayContaining(["addedRearView", "phonePicture"]));
  });
});

describe("a module that comes blank", () => {
  const w = work("orvanto-om9-blank", "velmora-corrie-19-r3");

  it("is loaded before the visit and does nothing of its own until then", () => {
    expect(w.needs.join()).toMatch(/loaded from a computer before the visit/);
    expect(w.plan.settings["module.data"]).toBe("loaded");
    const blank = { ...w.plan.settings, "module.data": "blank" };
    const model = new Model(w.plan.fitted, {}, blank);
    const see = (id: string, s: string) => {
      const fn = w.plan.fitted.functions.find((f) => f.id === id);
      return fn && model.see(fn, s).kind;
    };
    expect([see("phonePicture", "wireless"), see("factoryPicture", "on")]).toEqual(["absent", "ok"]);
  });

  it("has a key that is held longer than usual, on plan, card and among the causes", () => {
    expect(w.kit.actions[0]?.holdS).toEqual({ min: 5, max: 8 });
    expect(w.card).toMatch(/for 5 to 8 seconds/);
    expect(w.kit.assumed.find((a) => a.id === "shortHold")?.cause).toMatch(/before 5 s/);
  });
});

describe("a bigger screen and module", () => {
  const one = work("sundrey-wide-10", "sundrey-heron-20-h2");
  const two = work("sundrey-wide-10", "sundrey-vale-19-v1", { knob: "knob" });

  it("speaks of the dead zone only where the car has one zone", () => {
    expect(one.needs.join()).toMatch(/both keys set one temperature/);
    expect(one.card).toMatch(/right zone do nothing/);
    expect(two.needs.join()).not.toMatch(/one temperature/);
    expect([two.card, two.normal]).toEqual([
      expect.not.stringContaining("zone"),
      expect.not.arrayContaining(["deadZone"]),
    ]);
  });

  it("empties the old panel into the new bezel, with blanks and screws hidden behind the screen", () => {
    const bezel = one.step("kit-bezel");
    expect(bezel.transfer).toContain("hazard switch");
    expect(bezel.blanks).toEqual(["Mode key without hardware"]);
    expect(bezel.fasteners?.[0]?.hiddenBehind).toBe("screen");
    // The bezel holds the screen: it is emptied once the screen is out, and home before the screen goes in.
    const inward = one.steps.map((s) => s.id);
    expect(inward.indexOf("kit-bezel")).toBeGreaterThan(inward.indexOf("screen-out"));
    expect(one.wayBack.indexOf("kit-bezel")).toBeGreaterThan(-1);
    expect(one.wayBack.indexOf("kit-bezel")).toBeLessThan(one.wayBack.indexOf("screen-out"));
  });

  it("takes every contact of the car's plug through a harness of its own, the bus too", () => {
    expect(one.connections).toContain("Pass-through harness into the car's plug");
    const works = (open: Record<string, string>) => ["wheelVolume", "handsFree"].map((fn) => one.works(fn, open));
    expect(works({})).toEqual([true, true]);
    expect(works({ "k-adapter-radio": "not home" })).toEqual([false, false]);
    const single = work("sundrey-wide-10-single", "sundrey-heron-20-h2");
    expect(single.connections.join()).not.toMatch(/Pass-through/);
  });

  it("closes the emergency loop with a dummy, or the car stores a code", () => {
    expect(one.connections.join()).toMatch(/Dummy into the emergency call plug/);
    const without = new Model(one.plan.fitted, { openLinks: { "k-emergency": "left out" } }, one.plan.settings);
    expect(predictedCodes(without, one.plan.settings).map((c) => c.code)).toEqual(["B1A45"]);
    expect(two.connections.join()).not.toMatch(/Dummy/);
  });

  it("serves satellite radio and position by one antenna, keyed and coloured", () => {
    expect(one.works("satelliteRadio")).toBe(true);
    const open = { "k-satellite-radio": "open" };
    expect([one.works("satelliteRadio", open), one.works("navigation", open)]).toEqual([false, false]);
    const plug = one.plan.fitted.parts.find((p) => p.id === "satelliteAntenna")?.ports[0]?.connector;
    expect([plug?.keying, plug?.colour]).toEqual(["S", "pink"]);
  });

  it("is ordered by the identification number and rests after the programming plug", () => {
    expect(one.needs.join()).toMatch(/ordered by the identification number/);
    expect(one.normal).toContain("restAfterPlug");
  });
});

describe("two screens", () => {
  const w = work("ostrel-upper-2", "sundrey-tarn-21-t1", { soundPath: "usbSound" });

  it("have the board at the upper screen's end of the display lead, fed by a splitter there", () => {
    expect(w.plan.connections.map((c) => [c.a, c.b])).toEqual(
      expect.arrayContaining([
        ["displayLead.screenEnd", "videoInLead.display"],
        ["videoOutLead.screen", "screen.video"],
        ["splitter.screen", "screen.supply"],
      ]),
    );
    expect(w.works("factoryPicture", { "k-split-module": "open" })).toBe(false);
  });

  it("are both drawn, the lower one in the front of the radio", () => {
    const { car, variant } = w.plan.documents;
    const screens = dashOf(car, variant)?.shapes.filter((s) => s.what === "screen");
    expect(screens?.map((s) => [s.name, s.part, s.panel])).toEqual([
      ["lower screen", "radio", undefined],
      ["upper screen", "screen", "screen"],
    ]);
  });

  it("take sound by a USB adapter that is slow to be recognised", () => {
    expect(w.normal).toContain("slowUsbSound");
    expect(work("ostrel-upper-2", "sundrey-tarn-21-t1", { soundPath: "carBluetooth" }).normal).not.toContain(
      "slowUsbSound",
    );
  });

  it("drill only when that was chosen, and name the other way", () => {
    const hole = work("ostrel-upper-2", "sundrey-tarn-21-t1", { leadWay: "hole" });
    expect([w.needs.join(), hole.needs.join()]).toEqual([
      expect.not.stringContaining("hole"),
      expect.stringContaining("One hole of 12 mm"),
    ]);
    expect(hole.step("kit-hole").caution).toMatch(/cannot be undone/);
    expect(w.kit.choices.find((c) => c.id === "leadWay")?.default).toBe("around");
  });
});

describe("front keys by a key board", () => {
  it("reach radio and module, and change the picture without the bus", () => {
    const w = work("pellimar-inlay-7", "sundrey-heron-20-h1");
    expect(w.kit.actions[0]).toMatchObject({ press: "menu", when: { present: "keys.1" } });
    expect([w.works("frontMenuKey"), w.works("phonePicture")]).toEqual([true, true]);
    expect(w.works("phonePicture", { "k-keys-module": "open" })).toBe(false);
    expect(w.step("kit-ribbon-off").opens).toHaveLength(2);
  });

  it("are lost to the radio where the module keeps them, without harness and bus", () => {
    const w = work("brackwater-bare-2", "sundrey-heron-20-h2");
    expect(w.lost).toEqual(["frontMenuKey"]);
    expect(w.plan.fitted.parts.map((p) => p.id)).not.toContain("harness");
    expect(w.needs.join()).toMatch(/Reverse wire/);
  });

  it("offer the places of the microphone with what each costs", () => {
    const places = documents("pellimar-inlay-7", "sundrey-heron-20-h1").kit.choices.find((c) => c.id === "micPlace");
    expect(places?.options.map((o) => o.id)).toEqual(["headlining", "pillar", "column", "vent", "mirror", "module"]);
    expect(work("pellimar-inlay-7", "sundrey-heron-20-h1", { micPlace: "mirror" }).places).toContain("windscreen");
    expect(work("pellimar-inlay-7", "sundrey-heron-20-h1", { micPlace: "module" }).leads).not.toContain("kitMic");
  });

  it("keep the battery on or off as a way of working", () => {
    const isolated = (battery: string) =>
      work("pellimar-inlay-7", "sundrey-heron-20-h1", { battery }).steps.filter((s) => s.requires?.battery).length;
    expect(isolated("off")).toBeGreaterThan(isolated("asPlanned"));
  });
});

describe("an aftermarket radio", () => {
  const w = work("pellimar-free-7", "kestrane-fjell-11-f1");

  it("hears the wheel keys through the module, which must carry the data of the car", () => {
    expect(w.works("wheelVolume")).toBe(true);
    expect(w.works("wheelVolume", { "k-module-keys": "open" })).toBe(false);
    expect(w.plan.settings["busModule.data"]).toBe("updated");
  });

  it("takes its accessory feed from the module or from the panel; the module stays for the keys", () => {
    const fuse = work("pellimar-free-7", "kestrane-fjell-11-f1", { feed: "fuse" });
    expect(fuse.works("wheelVolume")).toBe(true);
    expect(fuse.connections.join()).toMatch(/Fuse tap/);
    expect(w.connections.join()).toMatch(/Accessory lead of the bus module/);
  });
});

describe("a radio from a sister car", () => {
  const wires = work("kestrane-sister-s4", "kestrane-fjell-11-f1", { bus: "wires" });
  const adapter = work("kestrane-sister-s4", "kestrane-fjell-11-f1", { bus: "adapter" });

  it("wants a twisted pair of known way from the body computer, or a bought adapter", () => {
    expect(wires.kit.leads?.find((l) => l.part === "busPair")).toMatchObject({ kind: "twisted" });
    expect([wires.leads.includes("busPair"), adapter.leads.includes("busPair")]).toEqual([true, false]);
  });

  it("has lighting and clock with the wires, and not with the adapter; its menu stands on the driver's side", () => {
    for (const fn of ["dimming", "clock"]) expect([fn, wires.works(fn), adapter.works(fn)]).toEqual([fn, true, false]);
    expect(wires.works("menuSide")).toBe(true);
  });

  it("watches tweeters that this car does not have until it is coded otherwise", () => {
    expect(wires.sets.join()).toMatch(/tweeters as not watched/);
    expect(wires.codes("radio.tweeters")).toEqual(["B1A15"]);
    expect(wires.sets.join()).toMatch(/gateway's list/);
  });
});

describe("a navigation module", () => {
  it("splits one antenna, moves two contacts for the premium amplifier and waits for its position outside", () => {
    const w = work("brackwater-guide", "sundrey-vale-19-v2");
    expect(w.connections.join()).toMatch(/Satellite antenna into the splitter/);
    expect(w.plan.sets.find((s) => s.setting === "speechLead.pins")?.moves).toHaveLength(1);
    expect(w.normal).toContain("positionOutside");
  });

  it("sets two contacts at the car's hands-free module for voice control, behind the console", () => {
    const w = work("brackwater-guide", "sundrey-vale-19-v2", { microphone: "branch" });
    expect(w.connections).toContain("Two contacts of the branch into the plug of the hands-free module");
    expect(w.plan.strip.goals.flatMap((g) => g.ports ?? [])).toContain("loom.micTap");
    expect(w.step("console").reaches?.ports).toContain("loom.micTap");
    expect(w.gained).toContain("navigationVoice");
    expect(w.works("navigationVoice", { "k-mic-pair": "open" })).toBe(false);
    const without = work("brackwater-guide", "sundrey-vale-19-v2");
    expect(without.plan.strip.goals.flatMap((g) => g.ports ?? [])).not.toContain("loom.micTap");
  });

  it("leaves the radio its microphone, which goes through that module", () => {
    const w = work("brackwater-guide", "sundrey-vale-19-v2", { microphone: "branch" });
    expect(w.works("handsFree")).toBe(true);
    expect(w.works("handsFree", { "loom-hands-free": "open" })).toBe(false);
    expect(w.works("navigationVoice", { "loom-hands-free": "open" })).toBe(true);
  });

  it("branches between microphone and plug where the car has no such module", () => {
    const leaflet = shippedLeaflets().find((l) => l.archetype === "car" && l.id === "sundrey-vale-19");
    if (leaflet?.archetype !== "car") throw new Error("the car is not in the library");
    const car = checkProfile(buildLeaflet({ ...leaflet, handsFreeModule: false }, []));
    if (car.document !== "car") throw new Error("no car was built");
    const { kit, variant } = documents("brackwater-guide", "sundrey-vale-19-v2");
    const plan = planJob({ car, kit, variant }, { choices: { microphone: "branch" } });
    const says = plan.connections.map((c) => c.say);
    expect(says).toContain("Factory microphone into the branch");
    expect(says.join()).not.toMatch(/Two contacts/);
  });
});

describe("an adapter on a video input", () => {
  const w = work("ostrel-line-1", "kestrane-fjell-11-f2");

  it("keeps the motion switch locked and proves it", () => {
    expect(w.plan.settings["module.motion"]).toBe("locked");
    expect(deliveredValue(w.plan.fitted, "module.motion")).toBe("locked");
    expect(w.gained).toContain("motionLock");
  });

  it("sets the size of the picture and turns the automatic return off", () => {
    expect(w.plan.settings).toMatchObject({ "radio.videoFormat": "wide", "radio.autoReturn": "off" });
    expect(w.needs.join()).toMatch(/Ground point/);
  });
});

describe("a hands-free module", () => {
  it("comes in two versions by the phone key, each with its own line on the card", () => {
    const [key, button] = [
      work("ostrel-talk-key", "hollinby-dunlin-16-l2"),
      work("ostrel-talk-button", "hollinby-dunlin-16-l1"),
    ];
    expect([key.card, button.card]).toEqual([
      expect.stringContaining("phone key of the radio"),
      expect.stringContaining("added button"),
    ]);
    expect(() => work("ostrel-talk-key", "hollinby-dunlin-16-l1")).toThrow(/phone key/);
  });

  it("is told its radio by the programmer, rests 30 s, and asks for PIN and priority", () => {
    const w = work("ostrel-talk-key", "hollinby-dunlin-16-l2");
    expect(w.sets.join()).toMatch(/30 s.*PIN/);
    expect(w.needs.join()).toMatch(/which phone comes first/);
    expect(w.normal).toContain("rest30");
    expect(w.works("handsFree")).toBe(true);
  });
});

describe("a socket upgrade", () => {
  const w = work("velmora-socket-b", "velmora-osk-18-o1");

  it("has a firmware floor, two leads with their ways, and plugs told apart by colour", () => {
    expect(w.kit.firmwareFloors[0]?.atLeast).toBe("O1-3.1");
    expect(w.leads).toEqual(["firstLead", "secondLead"]);
    const colours = w.plan.fitted.parts
      .find((p) => p.id === "usbPanel")
      ?.ports.flatMap((p) => (p.connector?.family === "Socket 5" ? [p.connector.colour] : []));
    expect(colours).toEqual(["white", "green"]);
  });

  it("ties the old lead back with foam and proves the engine start", () => {
    const foam = (lengthM: number) =>
      lengthsOf(
        w.car,
        { ...w.kit, tiesBack: [{ say: "Old lead", lengthM }] },
        w.plan.fitted,
        w.plan.applies,
        new Map(),
      ).material.find((m) => m.what === "Foam tape")?.amount ?? 0;
    expect(w.kit.tiesBack?.[0]?.lengthM).toBe(0.3);
    expect(foam(0.3)).toBeGreaterThan(foam(0.1));
    expect(w.plan.tests.map((t) => t.id)).toContain("phonePicture/started");
  });
});

describe("four radios of rising level", () => {
  it("each have their frame and what the customer is told", () => {
    const levels = ["1", "2", "3", "4"].map((n) => documents(`hollinby-level-${n}`, "hollinby-dunlin-16-l3").kit);
    const frames = levels.map((k) => k.needs.find((n) => n.say.startsWith("Frame"))?.say);
    expect(new Set(frames).size).toBe(4);
    expect(levels.map((k) => k.price)).toEqual([...levels.map((k) => k.price)].sort((a, b) => a - b));
    expect(levels.every((k) => k.needs.some((n) => n.kind === "person"))).toBe(true);
  });
});

describe("an optical ring", () => {
  it("moves two contacts into the harness plug, and is dark before", () => {
    const w = work("orvanto-om8-ring", "kestrane-halden-14-k1");
    expect(w.plan.sets.find((s) => s.setting === "harness.ring")?.moves).toHaveLength(2);
    expect(w.works("tunerSound")).toBe(true);
  });
});

describe("the menu of a module", () => {
  /** The shipped kit for the ring car, with the camera in its menu instead of in its switch bank. */
  const ring = () => {
    const shipped = shippedLeaflets().find((l) => l.id === "orvanto-om8-ring");
    const menu = [
      ["cameraType", "Menu, Camera"],
      ["guideLines", "Menu, Camera"],
      ["pictureSize", "Menu, Screen"],
      ["autoReturn", "Menu, Screen"],
    ].map(([entry, where]) => ({ entry, where }));
    const changed = { ...shipped, switches: { count: 8, front: 3, olderKeys: 6 }, menu };
    return checkProfile(buildLeaflet(leaflet.parse(changed), [])) as KitProfile;
  };

  /** What each value of a menu entry breaks on a car. */
  const breaks = (w: ReturnType<typeof work>, entry: string) =>
    Object.fromEntries(
      settingValues(new Model(w.plan.fitted, {}, w.plan.settings), w.plan.settings, `module.${entry}`).map((v) => [
        v.value,
        v.breaks,
      ]),
    );

  it("names its entries in order, each with its place, and only those that the choices ask for", () => {
    const w = work(ring(), "kestrane-halden-14-k1");
    const menu = w.plan.sets.filter((s) => s.means === "menu");
    expect(menu.map((s) => [s.setting, s.value, s.where])).toEqual([
      ["module.cameraType", "factory", "Menu, Camera"],
      ["module.pictureSize", "wide", "Menu, Screen"],
      ["module.autoReturn", "on", "Menu, Screen"],
    ]);
    const added = work(ring(), "kestrane-halden-14-k1", { rearCameraAdded: "fitted" });
    expect(added.plan.settings).toMatchObject({ "module.cameraType": "added", "module.guideLines": "on" });
  });

  it("ties every entry to the functions that it makes or breaks", () => {
    const k1 = work(ring(), "kestrane-halden-14-k1");
    expect(breaks(k1, "cameraType")).toEqual({
      none: ["Rear camera out of the phone picture"],
      factory: [],
      added: ["Rear camera", "Rear camera out of the phone picture"],
    });
    expect(breaks(k1, "pictureSize")).toEqual({ narrow: ["Phone picture"], wide: [] });
    expect(breaks(k1, "autoReturn")).toEqual({ off: ["Phone picture after reverse"], on: [] });
    const added = work(ring(), "kestrane-halden-14-k1", { rearCameraAdded: "fitted" });
    expect(breaks(added, "guideLines")).toEqual({ off: ["Guide lines on the added camera"], on: [] });
    const shipped = work("orvanto-om8-ring", "kestrane-halden-14-k1");
    expect(breaks(shipped, "soundPath")).toEqual({
      "not chosen": ["Phone sound on four speakers"],
      line: [],
      carBluetooth: ["Phone sound on four speakers"],
    });
    expect(breaks(shipped, "homeKey")).toEqual({ off: ["Home key in the phone picture"], on: [] });
    expect(breaks(shipped, "motionLock")).toEqual({ locked: [], free: ["Video stays locked in motion"] });
    const far = work("ostrel-line-1", "sundrey-tarn-21-t2");
    expect(
      settingValues(new Model(far.plan.fitted, {}, far.plan.settings), far.plan.settings, "radio.autoReturn").find(
        (v) => !v.planned,
      )?.breaks.length,
    ).toBeGreaterThan(0);
  });

  it("leaves the module as delivered until it was set", () => {
    const w = work("orvanto-om8-ring", "kestrane-halden-14-k1");
    const model = new Model(w.plan.fitted, { settings: { "module.homeKey": "off" } }, w.plan.settings);
    const home = w.plan.fitted.functions.find((f) => f.id === "homeKey");
    expect(home && model.see(home, "short").kind).toBe("absent");
    expect(w.works("homeKey")).toBe(true);
  });
});

describe("cards", () => {
  it("follow the choices taken: source, pairing, and whether the car keeps its pairing", () => {
    const card = (choices: Record<string, string>) => work("pellimar-inlay-7", "sundrey-heron-20-h1", choices).card;
    expect(card({ soundPath: "line" })).toMatch(/line input.*not paired with the car: calls run through the module/);
    expect(card({ soundPath: "carBluetooth" })).toMatch(/Bluetooth audio.*stays paired with the car/);
    expect(card({ soundPath: "carBluetooth" })).not.toMatch(/line input|not paired with the car/);
    // Its leaflet says that the cable comes first: nothing to choose, and each kind of phone is told its own way.
    expect(card({})).toMatch(/Tern phones: Phone on the cable.*Lapwing phones: Phone on the cable.*module's screen/);
    const open = (pairing: string) => work("brackwater-bare-2", "sundrey-heron-20-h2", { pairing }).card;
    expect(open("cable")).toMatch(/First pairing, Tern phones: Phone on the cable/);
    expect(open("wireless")).toMatch(/No cable before/);
    const silent = (pairing: string) => work("pellimar-inlay-5", "hollinby-marrow-17-m1", { pairing }).card;
    expect(silent("cable")).toMatch(/First pairing by cable/);
    expect(silent("cable")).not.toMatch(/First pairing by wireless/);
  });
});
