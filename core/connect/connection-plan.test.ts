import { describe, expect, it } from "vitest";
import { demoDocuments, shippedLibrary } from "../../profiles/library";
import { planJob } from "../job/plan";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import { connectionPlan, staysInBox } from "./connection-plan";
import { connectionTable } from "./table";

const library = shippedLibrary();
const byId = (id: string) => library.find((p) => p.id === id);
const plan = (car: string, variant: string, kit: string, choices: Record<string, string> | null = null) =>
  planJob(
    { car: byId(car) as CarProfile, variant: byId(variant) as VariantProfile, kit: byId(kit) as KitProfile },
    { choices },
  );
const taxi = planJob(demoDocuments(), { choices: null });
const ring = plan("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring");

describe("the connection plan", () => {
  it("has everything that comes off before anything goes in, and contacts moved before their housing is plugged", () => {
    const kinds = connectionPlan(ring.base, ring.connections).map((t) => t.kind);
    const first = kinds.indexOf("plug");
    expect(kinds.slice(0, first)).toEqual(expect.arrayContaining(["unplug", "move"]));
    expect(new Set(kinds.slice(first))).toEqual(new Set(["plug"]));
    expect(kinds.lastIndexOf("unplug")).toBeLessThan(kinds.indexOf("move"));
  });

  it("says which contact goes into which cavity", () => {
    const move = connectionPlan(ring.base, ring.connections).find((t) => t.kind === "move");
    expect(move?.moves).toHaveLength(2);
    expect(move?.why).toContain("Car loom, radio plug, ring, from");
    expect(move?.why).toContain("into T-harness, car end, ring, from");
  });

  it("cuts only where the premium branch asks for it", () => {
    const vale = (variant: string) => plan("sundrey-vale-19", variant, "brackwater-guide");
    const cuts = (p: typeof ring) => connectionPlan(p.base, p.connections).filter((t) => t.kind === "cut").length;
    expect([cuts(vale("sundrey-vale-19-v1")), cuts(vale("sundrey-vale-19-v2"))]).toEqual([0, 1]);
  });

  it("gives power last, then meets the phone, and closes factory plugs after the kit", () => {
    const order = taxi.connections.map((c) => c.link);
    const at = (id: string) => order.indexOf(id);
    expect(at("k-module")).toBeGreaterThan(Math.max(at("k-car"), at("k-in-radio"), at("k-mic"), at("k-antenna")));
    expect(at("k-phone-usb")).toBe(at("k-module") + 1);
    const kinds = taxi.connections.map((c) => c.kind);
    expect(kinds.lastIndexOf("kit")).toBeLessThan(kinds.indexOf("factory"));
  });

  it("begins deep: what lies behind the radio comes before what hangs at the glovebox", () => {
    const depth = new Map(connectionPlan(taxi.base, taxi.connections).map((t) => [t.link, t.depth]));
    const order = taxi.connections
      .filter((c) => c.kind === "kit" && depth.get(c.link) !== undefined)
      .map((c) => c.link);
    const loose = order.slice(0, order.indexOf("k-module")).map((l) => depth.get(l) ?? 0);
    expect(loose).toEqual([...loose].sort((a, b) => b - a));
    expect(loose[0]).toBeGreaterThan(loose.at(-1) ?? 0);
  });

  it("asks for an isolated battery where an airbag is near, and for the key only with the phone", () => {
    const supply = new Map(connectionPlan(taxi.base, taxi.connections).map((t) => [t.id, t.supply]));
    expect(supply.get("k-phone-usb")).toBe("keyOn");
    expect(supply.get("k-audio-module")).toBe("keyOff");
    expect([...supply.values()]).toContain("isolated");
  });

  it("parks what finds no new mate: plugs on wires, not sockets of devices that stay", () => {
    const lower = plan("hollinby-dunlin-16", "hollinby-dunlin-16-l3", "hollinby-level-2");
    const parked = connectionPlan(lower.base, lower.connections).filter((t) => t.kind === "park");
    expect(parked.map((t) => t.say)).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/^Car loom, screen supply plug: wrap it/),
        expect.stringMatching(/^Lead of the USB socket, radio end: wrap it/),
      ]),
    );
    for (const t of parked)
      expect(lower.fitted.links.some((l) => t.id === `park ${l.a}` || t.id === `park ${l.b}`)).toBe(false);
    expect(connectionPlan(taxi.base, taxi.connections).some((t) => t.kind === "park")).toBe(false);
  });
});

describe("what stays in the box", () => {
  it("is told with the reason", () => {
    const stays = staysInBox(ring.base);
    expect(stays.find((s) => s.name === "Front camera")?.why).toBe("Only with front camera: fitted.");
    const fitted = plan("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring", { frontCamera: "fitted" });
    expect(staysInBox(fitted.base).some((s) => s.name === "Front camera")).toBe(false);
  });

  it("knows what only another gearbox needs", () => {
    const automatic = plan("velmora-corrie-19", "velmora-corrie-19-r3", "brackwater-view");
    expect(staysInBox(automatic.base).find((s) => s.name === "Reverse wire")?.why).toBe(
      "Only on cars with manual gearbox; this one has automatic.",
    );
  });
});

describe("the table of connections", () => {
  it("has one row a contact, in the order of plugging, with colours in words", () => {
    const rows = connectionTable(taxi.fitted, taxi.connections);
    expect(rows[0]).toMatchObject({ order: 1, contact: "1", signal: "speaker" });
    const contacts = taxi.connections.reduce((n, c) => {
      const [part, port] = c.a.split(".");
      return n + (taxi.fitted.parts.find((p) => p.id === part)?.ports.find((p) => p.id === port)?.contacts.length ?? 0);
    }, 0);
    expect(rows).toHaveLength(contacts);
    expect(rows.find((r) => r.to === "Interface module, main plug" && r.contact === "1")).toMatchObject({
      colour: "yellow",
    });
  });
});
