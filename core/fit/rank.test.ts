import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { jobOf } from "../../tests/support/jobs";
import { lane } from "../connect/lane";
import { planJob } from "../job/plan";
import { lengthsOf } from "../lengths/job";
import { composeFitted, composeStock, kitPartIds } from "../model/compose";
import { Model } from "../model/outcome";
import type { KitProfile } from "../model/profile";
import type { FunctionSpec } from "../model/types";
import { hoursRange } from "./hours";
import { ledger } from "./ledger";
import { needsOf } from "./needs";
import { forOtherKit, offerOf } from "./offer";
import { offersOf } from "./offers";
import { byMerit, type Candidate, rankKits } from "./rank";
import { resolveFit, settingsForWishes } from "./resolve-fit";

const library = shippedLibrary();
const kits = library.flatMap((p) => (p.document === "kit" ? [p] : []));
const variants = library.flatMap((p) => (p.document === "variant" ? [p] : []));
const cars = library.flatMap((p) => (p.document === "car" ? [p] : []));
const WISH = {
  picture: { id: "phonePicture", name: "Phone picture" },
  sound: { id: "phoneSound", name: "Phone sound on four speakers" },
  front: { id: "frontView", name: "Front camera" },
};

function documents(variantId: string) {
  const variant = variants.find((v) => v.id === variantId);
  const car = cars.find((c) => c.id === variant?.car);
  if (!variant || !car) throw new Error(`no ${variantId} in the library`);
  return { car, variant };
}

function rank(variantId: string, wishes = [WISH.picture, WISH.sound], firmware = "") {
  return rankKits({ ...documents(variantId), kits, wishes, firmware });
}

const fitting = (list: Candidate[]) => list.filter((c) => c.verdict.level !== "impossible");

describe("the shipped library", () => {
  it("holds at least eight cars, twelve radio variants and twelve kits", () => {
    expect(cars.length).toBeGreaterThanOrEqual(8);
    expect(variants.length).toBeGreaterThanOrEqual(12);
    expect(kits.length).toBeGreaterThanOrEqual(12);
  });

  it.each(variants.map((v) => v.id))("every function of %s works in the car as built", (id) => {
    const { car, variant } = documents(id);
    const stock = composeStock(car, variant);
    const model = new Model(stock);
    const own = variant.functions.flatMap((f) => f.situations.map((s) => [f.id, model.try(f, s.id).outcome.kind]));
    expect(own.filter(([, kind]) => kind !== "ok")).toEqual([]);
    expect(own.length).toBeGreaterThan(0);
  });

  /** Each kind of work, with a radio on which it fits and a function that comes or goes by it. */
  const kinds: [work: string, kit: string, variant: string, gained: string][] = [
    ["Interface between a separate radio and screen", "orvanto-om8", "velmora-corrie-19-r2", "phonePicture"],
    ["Board fitted inside the radio", "pellimar-inlay-5", "hollinby-marrow-17-m1", "phonePicture"],
    ["Board behind the upper of two screens", "ostrel-upper-2", "sundrey-tarn-21-t1", "phoneSound"],
    ["Two-box interface with a digital picture lead", "brackwater-duo", "velmora-corrie-19-r3", "phoneTouch"],
    ["Camera interface, rear and front", "brackwater-view", "velmora-corrie-19-r2", "frontView"],
    ["Interface on a car with an optical ring", "orvanto-om8-ring", "kestrane-halden-14-k1", "rearViewPhone"],
    ["Factory socket upgrade", "velmora-socket-b", "velmora-osk-18-o1", "phonePicture"],
    ["Mirroring adapter on a video input", "ostrel-line-1", "kestrane-fjell-11-f2", "phonePicture"],
    ["Radio from a sister car", "kestrane-sister-s4", "kestrane-fjell-11-f1", "dimming"],
    ["Aftermarket radio with a bus module", "pellimar-free-7", "kestrane-fjell-11-f1", "handsFree"],
    ["Hands-free module", "ostrel-talk-button", "hollinby-dunlin-16-l1", "handsFree"],
    ["Hands-free module", "ostrel-talk-key", "hollinby-dunlin-16-l2", "handsFree"],
    ["Bigger factory module and screen", "sundrey-wide-10", "sundrey-vale-19-v3", "satelliteRadio"],
    ["Navigation module", "brackwater-guide", "sundrey-vale-19-v2", "guidanceVoice"],
    ["Factory radio of a higher level", "hollinby-level-4", "hollinby-dunlin-16-l3", "navigation"],
    ["Motion-lock module, loaded before fitting", "orvanto-still", "sundrey-tarn-21-t2", "passengerVideo"],
  ];
  it.each(kinds)("%s: %s fits %s and brings %s", (work, kit, variant, gained) => {
    const found = fitting(rank(variant, [{ id: gained, name: gained }], "")).filter((c) => c.kit === kit);
    expect(found[0]?.work).toBe(work);
    expect(found.some((c) => c.met.includes(gained))).toBe(true);
  });

  it("tells the two hands-free versions apart by the phone key", () => {
    const of = (variant: string, kit: string) => rank(variant).find((c) => c.kit === kit)?.verdict;
    expect(of("hollinby-dunlin-16-l1", "ostrel-talk-key")).toMatchObject({
      level: "impossible",
      text: expect.stringContaining("phone key"),
    });
    expect(of("hollinby-dunlin-16-l2", "ostrel-talk-button")).toMatchObject({
      level: "impossible",
      text: expect.stringContaining("own button"),
    });
  });

  it("names what is lost with the bigger screen: the knob, and with the single-zone bezel the right zone", () => {
    const all = fitting(rank("sundrey-vale-19-v1", []));
    const plain = all.find((c) => c.kit === "sundrey-wide-10" && c.choices.knob === "none");
    const knob = all.find((c) => c.kit === "sundrey-wide-10" && c.choices.knob === "knob");
    const single = all.find((c) => c.kit === "sundrey-wide-10-single" && c.choices.knob === "knob");
    expect([plain?.lost, knob?.lost, single?.lost]).toEqual([["volumeKnob"], [], ["climateRight"]]);
  });

  it("loses no music from USB with the new socket: a stick plays in it as it did in the old one", () => {
    const { car, variant } = documents("velmora-osk-18-o1");
    const kit = kits.find((k) => k.id === "velmora-socket-b");
    if (!kit) throw new Error("no socket kit");
    const { stock, fitted, settings } = resolveFit({ car, variant, kit }, {});
    const usb = ledger(stock, fitted, settings, kitPartIds(kit)).filter((l) => l.functionId === "usbMusic");
    expect(usb.map((l) => l.verdict)).toEqual(["kept"]);
    // With the phone on its cable the phone is what plays.
    const sound = fitted.functions.find((f) => f.id === "phoneSound") as FunctionSpec;
    expect(new Model(fitted, {}, settings).try(sound, "on").outcome.kind).toBe("ok");
  });

  it("the ring is open and there is no sound while the optical contacts stay in the old plug", () => {
    const { car, variant } = documents("kestrane-halden-14-k1");
    const kit = kits.find((k) => k.id === "orvanto-om8-ring");
    if (!kit) throw new Error("no ring kit");
    const { fitted, settings } = resolveFit({ car, variant, kit }, {});
    const tuner = fitted.functions.find((f) => f.id === "tunerSound");
    if (!tuner) throw new Error("no tuner");
    expect(new Model(fitted, {}, settings).try(tuner, "on").outcome.kind).toBe("ok");
    expect(
      new Model(fitted, {}, { ...settings, "harness.ring": "in the old plug" }).try(tuner, "on").outcome.kind,
    ).toBe("absent");
  });

  it("the premium amplifier needs its speech wires pinned over, the standard one does not", () => {
    const kit = kits.find((k) => k.id === "brackwater-guide");
    if (!kit) throw new Error("no navigation kit");
    const pins = ["sundrey-vale-19-v1", "sundrey-vale-19-v2"].map((v) => {
      const { car, variant } = documents(v);
      return resolveFit({ car, variant, kit }, {}).settings["speechLead.pins"];
    });
    expect(pins).toEqual([undefined, "pinned over"]);
  });
});

describe("ranking", () => {
  it("puts the offer first that fulfils the wishes and loses nothing", () => {
    const [first, second] = rank("velmora-corrie-19-r2");
    expect(first).toMatchObject({ kit: "orvanto-om8", choices: { soundPath: "carBluetooth" }, lost: [], unmet: [] });
    expect(second).toMatchObject({ kit: "orvanto-om8", choices: { soundPath: "line" }, lost: ["handsFree"] });
  });

  it("puts impossible kits last, each with a reason", () => {
    const list = rank("kestrane-halden-14-k1");
    const levels = list.map((c) => c.verdict.level === "impossible");
    expect(levels.indexOf(true)).toBe(levels.filter((x) => !x).length);
    for (const c of list) expect(c.verdict.text.length).toBeGreaterThan(10);
    expect(new Set(list.map((c) => c.kit)).size).toBe(kits.length);
  });

  it("gains and loses what the ledger of the same offer says", () => {
    const told = variants.slice(0, 6).flatMap(({ id }) => {
      const { car, variant } = documents(id);
      return fitting(rank(id, [])).map((c) => {
        const kit = kits.find((k) => k.id === c.kit) as KitProfile;
        const fit = resolveFit({ car, variant, kit }, c.choices);
        const lines = ledger(fit.stock, fit.fitted, settingsForWishes(fit, []), kitPartIds(kit));
        const of = (verdict: string) => [
          ...new Set(lines.filter((l) => l.verdict === verdict).map((l) => l.functionId)),
        ];
        return { offer: [c.gained, c.lost], ledger: [of("gained"), of("lost")] };
      });
    });
    expect(told.length).toBeGreaterThan(20);
    expect(told.some((t) => t.ledger.some((of) => of.length > 0))).toBe(true);
    expect(told.map((t) => t.offer)).toEqual(told.map((t) => t.ledger));
  });

  it("says which wish a fitting kit does not give", () => {
    const view = rank("velmora-corrie-19-r2", [WISH.front, WISH.picture]).find(
      (c) => c.kit === "brackwater-view" && c.choices.frontCamera === "fitted",
    );
    expect(view).toMatchObject({
      met: ["frontView"],
      unmet: ["phonePicture"],
      verdict: { text: expect.stringContaining("does not give: Phone picture") },
    });
  });

  it("opens no option that costs extra and nobody wished for, unless something would be lost without it", () => {
    const ring = rank("kestrane-halden-14-k1", []).filter((c) => c.kit === "orvanto-om8-ring");
    expect(ring.length).toBeGreaterThan(1);
    expect(ring[0]?.choices).toMatchObject({ frontCamera: "none", rearCameraAdded: "none" });
    const wide = rank("sundrey-vale-19-v1", []).find((c) => c.kit === "sundrey-wide-10");
    expect(wide?.choices.knob).toBe("knob");
    const wished = rank("kestrane-halden-14-k1", [WISH.front]).find((c) => c.kit === "orvanto-om8-ring");
    expect(wished?.choices).toMatchObject({ frontCamera: "fitted", rearCameraAdded: "none" });
  });

  it("is a total order that does not depend on the order of the library", () => {
    const one = rank("velmora-corrie-19-r2");
    const other = rankKits({
      ...documents("velmora-corrie-19-r2"),
      kits: [...kits].reverse(),
      wishes: [WISH.picture, WISH.sound],
      firmware: "",
    });
    expect(other.map((c) => [c.kit, c.choices])).toEqual(one.map((c) => [c.kit, c.choices]));
    for (let i = 1; i < one.length; i++)
      expect(byMerit(one[i - 1] as Candidate, one[i] as Candidate)).toBeLessThanOrEqual(0);
  });

  it("makes one offer of each combination of options and leaves methods alone", () => {
    const ring = kits.find((k) => k.id === "orvanto-om8-ring");
    expect(ring && offersOf(ring)).toHaveLength(8);
  });
});

describe("needs", () => {
  const of = (kitId: string, variantId: string, choices = {}, firmware = "") => {
    const { car, variant } = documents(variantId);
    const kit = kits.find((k) => k.id === kitId);
    if (!kit) throw new Error(`no ${kitId}`);
    const stock = composeStock(car, variant);
    return needsOf({ car, variant, kit, stock, fitted: composeFitted(car, variant, kit, choices), choices, firmware });
  };

  it("asks for the version when it is not known, for the shortest path when it is too old, for nothing when it is new", () => {
    const firmware = (version: string) =>
      of("velmora-socket-b", "velmora-osk-18-o1", {}, version).lines.filter((l) => l.kind === "firmware");
    expect(firmware("")[0]?.say).toMatch(/not known yet/);
    expect(firmware("O1-2.0").map((l) => l.minutes)).toEqual([20, 45]);
    expect(firmware("O1-2.0")[1]?.why).toMatch(/exchanged/);
    expect(firmware("O1-3.3")).toEqual([]);
    expect(firmware("O1-9.9")).toEqual([]);
    expect(firmware("X-1")).toMatchObject([{ blocked: true }]);
  });

  it("needs the reverse wire on a manual car only", () => {
    const wire = (kit: string, variant: string) => of(kit, variant).lines.some((l) => l.say.includes("Reverse wire"));
    expect(wire("orvanto-om8-ring", "kestrane-halden-14-k1")).toBe(true);
    expect(wire("brackwater-duo", "velmora-corrie-19-r3")).toBe(false);
  });

  it("adds minutes and price of the options taken", () => {
    const plain = of("orvanto-om8-ring", "kestrane-halden-14-k1");
    const both = of("orvanto-om8-ring", "kestrane-halden-14-k1", { frontCamera: "fitted", rearCameraAdded: "fitted" });
    expect(both.price - plain.price).toBe(95 + 110 + 18);
    expect(both.minutes.likely - plain.minutes.likely).toBe(50 + 80 + 15 + 25);
    expect(both.lines.some((l) => l.kind === "drilling")).toBe(true);
  });
});

describe("one time, one count", () => {
  const { car, variant } = documents("velmora-corrie-19-r2");
  const state = { givenUp: [], car: { firmware: "R2-118" }, placed: new Map<string, string>(), baseline: new Map() };
  const wishes = [{ id: "addedRearView", name: "Added rear camera" }];
  const list = rankKits({ car, variant, kits, wishes, firmware: "R2-118" });

  it("finds for a wish the kit with the option that gives it, at the price with that option", () => {
    // On a car whose own camera the law does not ask for; else the added one must not take its place.
    const allowed = <D extends { functions: FunctionSpec[] }>(d: D): D => ({
      ...d,
      functions: d.functions.map((f) => (f.id === "rearView" ? { ...f, who: "customer" as const } : f)),
    });
    const cameras = rankKits({ car: allowed(car), variant: allowed(variant), kits, wishes, firmware: "R2-118" });
    const [best] = cameras;
    expect(best).toMatchObject({ met: ["addedRearView"], choices: { rearCameraAdded: "fitted" } });
    expect(best?.lost).toEqual(["rearView"]);
    expect(list.some((c) => c.met.length > 0)).toBe(false);
    const bare = cameras.find((c) => c.kit === best?.kit && c.choices.rearCameraAdded === "none");
    expect(bare?.unmet).toEqual(["addedRearView"]);
    expect(best?.price).toBeGreaterThan(bare?.price ?? 0);
  });

  it("tells the same time and price on the card and in the offer, the car opened and closed included", () => {
    expect(fitting(list).length).toBeGreaterThan(3);
    for (const c of fitting(list)) {
      const kit = kits.find((k) => k.id === c.kit);
      if (!kit) throw new Error(c.kit);
      const offer = offerOf({ car, variant, kit }, state, c.choices, wishes);
      expect([c.kit, c.minutes, c.price]).toEqual([c.kit, offer.time.whole, offer.needs.price]);
      expect(offer.time.whole.low).toBe(offer.time.fitting.low + offer.time.way.low);
      expect(offer.time.way.low).toBeGreaterThan(0);
      expect(c.verdict.level).toBe(offer.verdict.level);
    }
  });

  it("says the time in half hours, never shorter than it is", () => {
    expect(hoursRange({ low: 125, likely: 150, high: 181 })).toBe("2 to 3½ h");
    expect(hoursRange({ low: 29, likely: 30, high: 31 })).toBe("0 to 1 h");
    expect(hoursRange({ low: 90, likely: 90, high: 90 })).toBe("1½ h");
  });

  it("counts ties and tape as Lengths does, and orders an extension for a lead that does not reach", () => {
    const kit = kits.find((k) => k.id === "orvanto-om8");
    if (!kit) throw new Error("no kit");
    const offer = (k: KitProfile, placed = state.placed) =>
      offerOf({ car, variant, kit: k }, { ...state, placed }, {}, []).needs.lines;
    const plan = planJob({ car, variant, kit }, { choices: null });
    const { material, leads } = lengthsOf(car, kit, plan.fitted, plan.applies, new Map());
    const ties = material.find((m) => m.what === "Ties");
    const said = offer(kit).filter((l) => l.say.startsWith("Ties"));
    expect(said.map((l) => l.say)).toEqual([`Ties, ${Math.ceil(ties?.amount ?? 0)} pieces`]);
    const extensions = (k: KitProfile) => offer(k).filter((l) => l.say.startsWith("Extension"));
    const short = leads.filter((l) => l.check?.verdict === "short");
    expect(extensions(kit).map((l) => l.why)).toEqual(
      short.map((l) => `${l.check?.say} Its price is not in this offer.`),
    );
    const cut = (lengthM: number): KitProfile => ({
      ...kit,
      id: `cut-${lengthM}`,
      parts: kit.parts.map((p) => (kit.leads?.some((l) => l.part === p.id) ? { ...p, lengthM } : p)),
    });
    expect(extensions(cut(9))).toEqual([]);
    expect(extensions(cut(0.2)).length).toBeGreaterThan(short.length);
    expect(extensions(cut(0.2)).map((l) => l.say)).toContain("Extension for USB lead");
  });

  it("says before ordering which ways nobody has measured, and which leads have no length", () => {
    const kit = kits.find((k) => k.id === "orvanto-om8");
    if (!kit) throw new Error("no kit");
    const says = (k: KitProfile, c = car) =>
      offerOf({ car: c, variant, kit: k }, state, {}, []).needs.lines.flatMap((l) =>
        l.say.startsWith("Length not known") ? [l.say] : [],
      );
    expect(says(kit)).toEqual([]);
    const [unmeasured, ...rest] = says(kit, { ...car, runs: [] });
    expect(rest).toEqual([]);
    for (const name of ["USB lead", "added microphone"]) expect(unmeasured).toContain(name);
    const bare = kit.parts.map((p) => (p.id === "usbLead" ? { ...p, lengthM: undefined } : p));
    expect(says({ ...kit, id: "no-length", parts: bare as KitProfile["parts"] })).toEqual([
      "Length not known: USB lead",
    ]);
  });

  it("lays ready what opens the car, and nothing twice that the kit asks for by name", () => {
    const tools = (id: string, variantId: string, choices: Record<string, string> = {}) => {
      const kit = kits.find((k) => k.id === id);
      if (!kit) throw new Error(`no ${id}`);
      const docs = { ...documents(variantId), kit };
      return offerOf(docs, forOtherKit(jobOf(docs).state), choices, []).needs.lines.filter((l) => l.kind === "tool");
    };
    const words = (lines: { say: string }[]) => lines.map((l) => l.say.toLowerCase()).join(", ");
    const upper = words(tools("ostrel-upper-2", "sundrey-tarn-21-t1"));
    expect(upper).toContain("t20");
    expect(upper.match(/wedge/g)).toHaveLength(1);
    expect(upper).not.toContain("drill");
    const drilled = words(tools("ostrel-upper-2", "sundrey-tarn-21-t1", { leadWay: "hole" }));
    expect(drilled).toContain("drill with stop");
  });

  it("counts the leads of a board behind the screen from the screen", () => {
    const kit = kits.find((k) => k.id === "ostrel-upper-2");
    const from = (part: string) => kit?.leads?.find((l) => l.part === part);
    expect(from("usbLead")).toMatchObject({ from: "vent space", to: "console space" });
    const inside = kits.find((k) => k.id === "pellimar-inlay-5")?.leads?.find((l) => l.part === "usbLead");
    expect(inside).toMatchObject({ from: "radio shaft" });
  });
});

describe("why not", () => {
  it("shows the way a lost function could take, with the part that does not pass it on", () => {
    const { car, variant } = documents("velmora-corrie-19-r2");
    const kit = kits.find((k) => k.id === "orvanto-om8");
    if (!kit) throw new Error("no kit");
    const { fitted, settings } = resolveFit({ car, variant, kit }, { soundPath: "line" });
    const fn = fitted.functions.find((f) => f.id === "handsFree");
    if (!fn) throw new Error("no such function");
    const shown = lane(fitted, fn, "call", settings, {});
    expect(shown.works).toBe(false);
    expect(shown.stations.map((s) => s.name)).toEqual(["Factory microphone", "Car loom", "T-harness", "Radio R2"]);
    expect(shown.stations[shown.breakAt]?.name).toBe("Radio R2");
    expect(shown.reasons.join(" ")).toContain("paired");
  });
});

describe("a kit with several options", () => {
  it("is an offer once for options that are asked only with another one", () => {
    const view = kits.filter((k) => k.id === "brackwater-view");
    const list = rankKits({ ...documents("velmora-corrie-19-r2"), kits: view, wishes: [], firmware: "" });
    expect(new Set(list.map((c) => c.with.join())).size).toBe(list.length);
    expect(list.map((c) => c.with.some((w) => w.startsWith("Front camera comes")))).toEqual(
      list.map((c) => c.choices.frontCamera === "fitted"),
    );
    expect(list).toHaveLength(6);
  });

  it.each(variants.map((v) => v.id))("is left out on %s after the first offer only when no option can help", (id) => {
    const left = kits.filter(
      (kit) =>
        offersOf(kit).length > 1 &&
        fitting(rankKits({ ...documents(id), kits: [kit], wishes: [], firmware: "" })).length === 0,
    );
    for (const kit of left)
      for (const choices of offersOf(kit)) {
        const fixed: KitProfile = {
          ...kit,
          choices: kit.choices.map((c) => ({ ...c, kind: "method", default: choices[c.id] ?? c.default })),
        };
        expect(fitting(rankKits({ ...documents(id), kits: [fixed], wishes: [], firmware: "" }))).toEqual([]);
      }
  });
});
