import { describe, expect, it } from "vitest";
import { shippedLibrary } from "../../profiles/library";
import { checkProfile } from "../../profiles/read";
import { jobOf, named } from "../../tests/support/jobs";
import type { Job } from "../job/job";
import { mates } from "../model/mating";
import { findPort } from "../model/ports";
import { connectionRow } from "../views/connection-row";
import { jointWires } from "./joints";

const library = shippedLibrary();
const job = (car: string, variant: string, kit: string) => jobOf(named(car, variant, kit));
const row = (j: Job, a: string) => {
  const c = j.plan.connections.find((x) => x.a === a);
  if (!c) throw new Error(`no connection of ${a}`);
  return connectionRow(j, c, undefined);
};
const halden = job("kestrane-halden-14", "kestrane-halden-14-k1", "orvanto-om8-ring");

describe("a joint", () => {
  it("is what a reverse wire and a bus pair end in: wires, no plugs", () => {
    const reverse = row(halden, "reverseWire.lamp");
    expect([reverse.joint, reverse.halves.filter((h) => !h.port.connector)]).toEqual(["wire", []]);
    expect(reverse.joined.map((w) => [w.there.words, w.branch.words])).toEqual([["reverse feed", "reverse trigger"]]);
    const pair = row(job("kestrane-fjell-11", "kestrane-fjell-11-f1", "pellimar-free-7"), "busModule.main");
    expect([pair.joint, pair.joined.map((w) => [w.there.stamp, w.branch.stamp])]).toEqual([
      "wire",
      [
        ["H", "H"],
        ["L", "L"],
      ],
    ]);
    expect(row(halden, "reverseWire.module")).toMatchObject({ joint: null, joined: [] });
  });

  it("goes onto any wires, in one place, and carries what they carry", () => {
    const { fitted, connections } = halden.plan;
    const end = findPort(fitted, "reverseWire.lamp");
    const lamp = findPort(fitted, "loom.reverseLamp");
    const radio = findPort(fitted, "loom.radio");
    if (!end || !lamp || !radio) throw new Error();
    expect([mates(end, lamp), mates(radio, end), mates(lamp, radio)?.rule]).toEqual([null, null, "family"]);
    expect(row(halden, "reverseWire.lamp").places).toEqual([]);
    const link = connections.find((c) => c.a === "reverseWire.lamp") ?? { a: "", b: "" };
    expect(jointWires(fitted, { a: link.b, b: link.a })).toEqual(jointWires(fitted, link));
  });

  it("is no end of a lead that has a housing as well", () => {
    const kit = structuredClone(library.find((p) => p.id === "orvanto-om8-ring"));
    if (kit?.document !== "kit") throw new Error();
    const end = kit.parts.find((p) => p.id === "reverseWire")?.ports.find((p) => p.joint);
    if (!end) throw new Error("no joint");
    end.connector = { family: "Lamp 2", ways: 2, gender: "male" };
    expect(() => checkProfile(kit)).toThrow(/without a housing/);
  });
});
