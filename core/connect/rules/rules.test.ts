/** Every rule with a planted mistake, on the shipped documents; and none of them on the plan as it is meant. */
import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../../profiles/library";
import { logOf } from "../../../tests/support/jobs";
import { checkNow, checkPlan, planInput } from "../../job/connect";
import { type Documents, planJob } from "../../job/plan";
import type { Command } from "../../log/entry";
import { foldJob } from "../../log/fold";
import type { KitProfile } from "../../model/profile";
import type { Part, System } from "../../model/types";
import type { Finding, RuleId } from "./finding";
import { checkConnections } from "./index";

const library = shippedLibrary();
const find = <K extends "car" | "variant" | "kit">(document: K, id: string) => {
  const found = library.find((p) => p.document === document && p.id === id);
  if (!found) throw new Error(`no ${id} in the library`);
  return structuredClone(found) as Extract<typeof found, { document: K }>;
};
/** The taxi: automatic, separate screen, coded video link. */
const taxi = (): Documents => structuredClone(demoDocuments());
/** The ring car: manual gearbox, amplifier on an optical ring, factory camera. */
const ring = (): Documents => ({
  car: find("car", "kestrane-halden-14"),
  variant: find("variant", "kestrane-halden-14-k1"),
  kit: find("kit", "orvanto-om8-ring"),
});
/** A retrofit that runs a bus pair through the car. */
const sister = (): Documents => ({
  car: find("car", "kestrane-fjell-11"),
  variant: find("variant", "kestrane-fjell-11-f1"),
  kit: find("kit", "kestrane-sister-s4"),
});

const entries = logOf;
const plug = (link: string, more: { at?: string; turned?: boolean } = {}): Command => ({
  kind: "connect.plug",
  data: { link, plugged: true, ...more },
});
const place = (part: string, where: string): Command => ({ kind: "connect.place", data: { part, place: where } });
const part = (holder: { parts: Part[] }, id: string): Part => {
  const found = holder.parts.find((p) => p.id === id);
  if (!found) throw new Error(`no part ${id}`);
  return found;
};

const planOf = (documents: Documents, choices: Record<string, string> | null = null) => planJob(documents, { choices });

/** Findings of a plan whose documents were changed. */
function planned(documents: Documents, change: (d: Documents) => void, choices: Record<string, string> | null = null) {
  change(documents);
  return checkPlan(planOf(documents, choices), foldJob([]), []);
}

/** Findings of a car as it is marked. */
function marked(documents: Documents, ...bodies: Command[]): Finding[] {
  return checkNow(planOf(documents), foldJob(entries(...bodies)));
}

/** Findings of a system that was changed after composing. */
function wired(documents: Documents, change: (system: System) => void): Finding[] {
  const plan = planOf(documents);
  const system = structuredClone(plan.fitted);
  change(system);
  return checkConnections({ ...planInput(plan, foldJob([])), system });
}

function allPlugged(documents: Documents, ...more: Command[]): Finding[] {
  const plan = planOf(documents);
  return checkNow(plan, foldJob(entries(...plan.connections.map((c) => plug(c.link)), ...more)));
}

/** One planted mistake for each rule; a rule without one does not pass the type check. */
const PLANTED: Record<RuleId, () => Finding[]> = {
  mating: () => planned(taxi(), ({ kit }) => relink(kit, "k-antenna", { a: "usbLead.phone" })),
  "contact-kind": () =>
    planned(taxi(), ({ kit }) => {
      const contact = part(kit, "frontCamera").ports[0]?.contacts[0];
      if (contact) contact.kind = "battery";
    }),
  "microphone-jack": () => wired(taxi(), (s) => put(s, "k-mic", "module.audio")),
  "wrong-place": () => marked(taxi(), plug("k-in-module", { at: "module.videoOut" })),
  "exchanged-pair": () =>
    marked(taxi(), plug("k-in-module", { at: "module.videoOut" }), plug("k-out-module", { at: "module.videoIn" })),
  reversed: () => marked(ribbons(), plug("k-in-module", { turned: true })),
  "exchange-risk": () => planned(taxi(), () => undefined),
  reversible: () => planned(ribbons(), () => undefined),
  direction: () => wired(taxi(), (s) => put(s, "k-out-module", "module.videoIn", "k-in-module", "module.videoOut")),
  "two-drivers": () => wired(taxi(), (s) => put(s, "k-in-module", "module.videoOut")),
  "short-circuit": () =>
    planned(taxi(), ({ kit }) => {
      const harness = part(kit, "harness");
      harness.joins = [...(harness.joins ?? []), { contacts: ["car.12", "car.13"] }];
    }),
  "factory-plug-open": () =>
    wired(taxi(), (s) => {
      s.links = s.links.filter((l) => l.id !== "loom-vents");
    }),
  "supply-missing": () => cut(taxi(), "harness", "module.1"),
  "ground-missing": () => cut(taxi(), "harness", "module.2"),
  "control-missing": () => cut(taxi(), "harness", "module.3"),
  "camera-power": () =>
    planned(taxi(), ({ kit }) => {
      const module = part(kit, "module");
      module.sources = module.sources?.filter((s) => !s.at.includes("camera.1"));
      module.routes = module.routes?.filter((r) => r.to !== "camera.1");
    }),
  "fuse-missing": () =>
    planned(taxi(), ({ car }) => {
      for (const join of part(car, "loom").joins ?? []) if (join.contacts.includes("posts.30")) delete join.fuseA;
      const spare = part(car, "loom").joins?.find((j) => j.contacts.includes("mic.1"));
      if (spare) spare.fuseA = 5;
    }),
  "fuse-too-large": () => thinFeed(0.5),
  "thin-lead": () => thinFeed(0.1),
  "tap-turned": () =>
    marked(taxi(), { kind: "connect.feed", data: { position: "F10" } }, { kind: "connect.tap", data: { lit: false } }),
  "ring-open": () => allPlugged(ring()),
  "reverse-trigger": () =>
    planned(
      ring(),
      ({ kit }) => {
        kit.plug = kit.plug.filter((k) => k.id !== "k-reverse");
      },
      { rearCameraAdded: "fitted" },
    ),
  "bus-termination": () => planned(taxi(), busEndOut),
  "bus-stub": () =>
    planned(taxi(), ({ kit }) => {
      part(kit, "harness").lengthM = 4;
    }),
  "bus-untwisted": () =>
    planned(
      sister(),
      ({ kit }) => {
        part(kit, "busPair").twisted = false;
      },
      { bus: "wires" },
    ),
  "antenna-on-metal": () =>
    marked(taxi(), place("kitAntenna", "radio shaft")).concat(placedFindings("kitAntenna", "radio shaft")),
  "vents-covered": () => placedFindings("module", "console space"),
  "too-hot": () => placedFindings("module", "engine bay"),
  "airbag-zone": () => placedFindings("kitMic", "headlining edge"),
  "usb-unreachable": () => placedFindings("usbLead", "vent space"),
  "colour-two-meanings": () =>
    checkPlan(
      planOf(taxi()),
      foldJob([]),
      library.filter((p) => p.document === "kit"),
    ),
};

/** A plug at the end of the bus, which the kit takes out: the radio had its terminator there. */
function busEndOut({ car, variant, kit }: Documents): void {
  for (const bus of part(variant, "radio").buses ?? []) delete bus.terminatorOhm;
  const contacts = ["H", "L"].map((id) => ({ id, kind: "can" as const, direction: "wire" as const }));
  const connector = { family: "Bus end 2", ways: 2 };
  const loom = part(car, "loom");
  loom.ports.push({ id: "busEnd", label: "bus end", connector: { ...connector, gender: "female" }, contacts });
  for (const join of loom.joins ?? []) {
    if (join.contacts.includes("body.3")) join.contacts.push("busEnd.H");
    if (join.contacts.includes("body.4")) join.contacts.push("busEnd.L");
  }
  car.parts.push({
    id: "busEnd",
    name: "Bus end plug",
    type: "device",
    ports: [{ id: "plug", label: "plug", connector: { ...connector, gender: "male" }, contacts }],
    buses: [{ id: "bus", high: "plug.H", low: "plug.L", terminatorOhm: 120 }],
  });
  car.links.push({ id: "loom-busEnd", a: "loom.busEnd", b: "busEnd.plug" });
  kit.replaces.push({ part: "busEnd", why: "It stands in the way." });
}

function relink(kit: KitProfile, id: string, ends: Partial<{ a: string; b: string }>): void {
  const link = kit.plug.find((k) => k.id === id);
  if (!link) throw new Error(`no ${id}`);
  Object.assign(link, ends);
  const source = part(kit, "usbLead").ports.find((p) => p.id === "phone");
  if (source && ends.a === "usbLead.phone") source.contacts = [{ id: "1", kind: "radioFrequency", direction: "wire" }];
}

/** Puts the far ends of links elsewhere: pairs of link and port. */
function put(system: System, ...pairs: string[]): void {
  for (let i = 0; i < pairs.length; i += 2) {
    const link = system.links.find((l) => l.id === pairs[i]);
    if (link) link.b = pairs[i + 1] ?? "";
  }
}

/** The plan with one contact taken out of its conductor. */
function cut(documents: Documents, id: string, contact: string): Finding[] {
  return planned(documents, ({ kit }) => {
    for (const join of part(kit, id).joins ?? []) join.contacts = join.contacts.filter((c) => c !== contact);
  });
}

function thinFeed(mm2: number): Finding[] {
  return planned(taxi(), ({ kit }) => {
    for (const join of part(kit, "harness").joins ?? []) if (join.contacts.includes("module.1")) join.mm2 = mm2;
  });
}

/** A board whose ribbons go in both ways round, on the car it is made for. */
function ribbons(): Documents {
  for (const kit of library)
    for (const variant of library)
      for (const car of library) {
        if (kit.document !== "kit" || variant.document !== "variant" || car.document !== "car") continue;
        if (kit.id !== "pellimar-inlay-5" || variant.car !== car.id) continue;
        try {
          const documents = { car, variant, kit };
          if (checkPlan(planOf(documents), foldJob([]), []).every((f) => f.rule !== "mating")) return documents;
        } catch {
          // Another car.
        }
      }
  throw new Error("no car takes the board");
}

function placedFindings(id: string, where: string): Finding[] {
  return checkPlan(planOf(taxi()), foldJob(entries(place(id, where))), []);
}

describe("the rules of the connections", () => {
  it.each(Object.keys(PLANTED) as RuleId[])("find %s where it was planted, with place, reason and remedy", (rule) => {
    const found = PLANTED[rule]().find((f) => f.rule === rule);
    expect(found).toBeDefined();
    for (const text of [found?.where, found?.text, found?.remedy]) expect(text).toMatch(/\w{3}/);
  });

  it.each([
    ["taxi", taxi],
    ["ring car", ring],
    ["sister radio", sister],
  ])("find nothing wrong with the %s as planned", (_, documents) => {
    const problems = checkPlan(planOf(documents()), foldJob([]), []).filter((f) => f.level !== "note");
    expect(problems.map((f) => `${f.rule} ${f.where}`)).toEqual([]);
  });

  it("say nothing of plugs that only wait, and nothing of settings that come later", () => {
    for (const documents of [taxi(), ring(), sister()]) expect(marked(documents)).toEqual([]);
    expect(allPlugged(taxi())).toEqual([]);
  });
});

describe("what the rules compute", () => {
  it("adds up who hangs on a wire, over the camera that the module switches", () => {
    const found = thinFeed(0.1).find((f) => f.rule === "thin-lead");
    // Radio 3.5 A and module 0.7 A on the same wire; the front camera is not fitted without its choice.
    expect(found?.text).toMatch(/^(4\.2|4\.3) A of battery feed for Radio R2, Interface module/);
    expect(found).toMatchObject({ level: "stop", damages: "T-harness" });
  });

  it("names the fuse that protects the thin wire", () => {
    const found = thinFeed(0.5).find((f) => f.rule === "fuse-too-large");
    expect(found?.text).toContain("behind a fuse of 15 A");
    expect(found?.remedy).toContain("fuse of 5 A");
  });

  it("gives the resistance a meter would show: two of 120 ohm side by side are 60, one is 120, three are 40", () => {
    // Worked example of parallel resistors; ISO 11898-2 terminators (from memory).
    const ohm = (change: (d: Documents) => void) =>
      planned(taxi(), change)
        .find((f) => f.rule === "bus-termination")
        ?.text.match(/^\d+/)?.[0];
    expect(ohm(() => undefined)).toBeUndefined();
    expect(ohm(busEndOut)).toBe("120");
    expect(ohm(({ kit }) => Object.assign(part(kit, "module").buses?.[0] ?? {}, { terminatorOhm: 120 }))).toBe("40");
  });

  it("says nothing about the ends of a bus whose own car does not come out right", () => {
    const unknown = planned(taxi(), ({ variant }) => {
      for (const bus of part(variant, "radio").buses ?? []) delete bus.terminatorOhm;
    });
    expect(unknown.filter((f) => f.rule === "bus-termination")).toEqual([]);
  });

  it("allows a branch of 0.3 m at 1 Mbit/s and in proportion to the bit time", () => {
    const stub = (lengthM: number, kbit: number) =>
      planned(taxi(), ({ car, kit }) => {
        part(kit, "harness").lengthM = lengthM;
        const [bus] = part(car, "bodyComputer").buses ?? [];
        if (bus) bus.kbit = kbit;
      }).some((f) => f.rule === "bus-stub");
    expect([stub(0.29, 1000), stub(0.31, 1000), stub(0.59, 500), stub(0.61, 500), stub(2.3, 125)]).toEqual([
      false,
      true,
      false,
      true,
      false,
    ]);
  });

  it("tells what would be damaged before power is on", () => {
    const [short] = PLANTED["short-circuit"]().filter((f) => f.rule === "short-circuit");
    expect(short?.damages).toContain("fuse");
    const [drivers] = PLANTED["two-drivers"]().filter((f) => f.rule === "two-drivers");
    expect(drivers?.damages).toBeTruthy();
  });

  it("puts the antenna on metal into the model: the wireless link gets weak", () => {
    const [found] = placedFindings("kitAntenna", "radio shaft").filter((f) => f.rule === "antenna-on-metal");
    expect(found?.fix?.press).toEqual([place("kitAntenna", "glovebox space")]);
    const plan = planOf(taxi());
    const input = planInput(plan, foldJob(entries(place("kitAntenna", "radio shaft"))));
    expect(input.open.settings).toMatchObject({ "kitAntenna.place": "on metal" });
  });

  it("stops a lead whose only way crosses an airbag", () => {
    const documents = taxi();
    documents.car.runs = documents.car.runs?.filter((r) => r.say !== "behind the airbag");
    const found = checkPlan(planOf(documents), foldJob(entries(place("kitMic", "headlining edge"))), []);
    expect(found.find((f) => f.rule === "airbag-zone")).toMatchObject({ level: "stop" });
  });
});

describe("the one remedy", () => {
  it("of an open ring is to move the contacts, and after it nothing is left", () => {
    const [found] = allPlugged(ring()).filter((f) => f.rule === "ring-open");
    expect(found?.fix?.press).toEqual([{ kind: "configure.set", data: { setting: "harness.ring", done: true } }]);
    expect(allPlugged(ring(), ...(found?.fix?.press ?? []))).toEqual([]);
  });

  it("of two plugs in each other's place is to exchange them, in one press", () => {
    const [found] = PLANTED["exchanged-pair"]();
    expect(found).toMatchObject({ rule: "exchanged-pair", level: "stop" });
    expect(found?.fix?.press).toHaveLength(2);
  });

  it("is looked for among the choices of the kit, and offered only when there is one", () => {
    const documents = taxi();
    // A kit that ends the bus by an option: without it one terminator is missing.
    busEndOut(documents);
    const module = part(documents.kit, "module");
    const ended = { ...module, buses: module.buses?.map((b) => ({ ...b, terminatorOhm: 120 })) };
    documents.kit.parts = [
      ...documents.kit.parts.filter((p) => p.id !== "module"),
      { ...module, when: { choice: "busEnd", is: ["open"] } },
      { ...ended, when: { choice: "busEnd", is: ["ended"] } },
    ];
    documents.kit.choices.push({
      id: "busEnd",
      label: "End of the bus",
      kind: "method",
      default: "open",
      options: [
        { id: "open", label: "Open", why: "." },
        { id: "ended", label: "Ended in the module", why: "." },
      ],
    });
    const found = checkPlan(planOf(documents), foldJob([]), []).find((f) => f.rule === "bus-termination");
    expect(found?.fix?.say).toBe("Choose for end of the bus: Ended in the module");
    expect(
      checkPlan(planOf(documents, { busEnd: "ended" }), foldJob([]), []).filter((f) => f.level !== "note"),
    ).toEqual([]);
  });
});
