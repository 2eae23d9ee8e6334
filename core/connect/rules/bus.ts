/** Rules about the bus pair: two ends, short branches, twisted wires. */
import type { Part, System } from "../../model/types";
import { parallelOhm } from "../../power/wire";
import { type CheckContext, conductors, type NetContact } from "./context";
import type { Finding } from "./finding";

/** Two terminators of 120 ohm side by side. ISO 11898-2 (from memory). */
const RIGHT_OHM = 60;
/** Resistance between these is taken as right: tolerance of terminators and of a meter; common practice. */
const RIGHT_BETWEEN: readonly [number, number] = [54, 66];
/** Longest branch at 1 Mbit/s, in metres. ISO 11898-2 (from memory); at lower rates in proportion to the bit time. */
const STUB_M_AT_1000 = 0.3;
/** A bus without a stated bit rate is taken as a fast one. */
const USUAL_KBIT = 500;
/** So long a piece may be untwisted; common practice. */
const UNTWISTED_M = 0.3;

export function busFindings({ stock, system, nets, kitParts }: CheckContext): Finding[] {
  // A car whose own bus does not come out right is not known well enough: its radio is still to be found, say.
  const known = busNets(stock, conductors(stock, stock.links)).every((net) => {
    const ends = terminators(stock, net);
    return ends.length === 0 || isRight(parallelOhm(...ends.map((e) => e.ohm)));
  });
  return busNets(system, nets).flatMap((net) => [
    ...(known ? terminationFindings(system, net) : []),
    ...stubFindings(system, net, kitParts),
    ...untwistedFindings(system, net, kitParts),
  ]);
}

/** Conductors that are the high wire of a bus pair. */
function busNets(system: System, nets: readonly NetContact[][]): NetContact[][] {
  return nets.filter((net) => net[0]?.kind === "can" && net.some((c) => busesAt(system, c).length > 0));
}

function terminators(system: System, net: readonly NetContact[]): { part: string; ohm: number }[] {
  return net.flatMap((c) =>
    busesAt(system, c).flatMap((b) => (b.terminatorOhm ? [{ part: c.part, ohm: b.terminatorOhm }] : [])),
  );
}

function isRight(ohm: number): boolean {
  return ohm >= RIGHT_BETWEEN[0] && ohm <= RIGHT_BETWEEN[1];
}

/** Bus pairs of a part whose high wire is this contact. One net stands for the pair: that of the high wire. */
function busesAt(system: System, contact: NetContact) {
  const at = contact.ref.slice(contact.part.length + 1);
  return partOf(system, contact.part)?.buses?.filter((b) => b.high === at) ?? [];
}

function partOf(system: System, id: string): Part | undefined {
  return system.parts.find((p) => p.id === id);
}

function terminationFindings(system: System, net: readonly NetContact[]): Finding[] {
  const ends = terminators(system, net);
  // Where no part says what it has across the pair, nothing is known.
  if (ends.length === 0) return [];
  const ohm = parallelOhm(...ends.map((e) => e.ohm));
  if (isRight(ohm)) return [];
  const names = ends.map((e) => partOf(system, e.part)?.name ?? e.part).join(", ");
  return [
    {
      rule: "bus-termination",
      level: "watch",
      where: names,
      text: `${ohm.toFixed(0)} ohm across the bus pair instead of ${RIGHT_OHM}: ${
        ohm > RIGHT_OHM ? "one end of the bus has no terminator" : "there is a terminator too many"
      } (${names}).`,
      remedy:
        ohm > RIGHT_OHM
          ? "A part that ended the bus was taken out. Put 120 ohm across the pair at its place, or use a kit that ends the bus."
          : "Switch off or cut the terminator of the part that does not sit at an end of the bus.",
    },
  ];
}

/** Parts of a net and which of them hang together. */
function neighbours(system: System, net: readonly NetContact[]): Map<string, Set<string>> {
  const on = new Set(net.map((c) => c.part));
  const map = new Map<string, Set<string>>([...on].map((p) => [p, new Set<string>()]));
  for (const l of system.links) {
    const [a, b] = [l.a, l.b].map((p) => p.split(".")[0] as string) as [string, string];
    const joined = net.some((c) => c.ref.startsWith(`${l.a}.`)) && net.some((c) => c.ref.startsWith(`${l.b}.`));
    if (!joined) continue;
    map.get(a)?.add(b);
    map.get(b)?.add(a);
  }
  return map;
}

/** The parts from one to another, both included; empty when there is no way. */
function wayBetween(map: ReadonlyMap<string, ReadonlySet<string>>, from: string, to: string): string[] {
  const before = new Map<string, string>([[from, ""]]);
  for (const at of before.keys()) for (const n of map.get(at) ?? []) if (!before.has(n)) before.set(n, at);
  const way: string[] = [];
  for (let at = to; before.has(at) && at !== ""; at = before.get(at) ?? "") way.unshift(at);
  return way;
}

/** A branch is what leads from the line between the two ends of the bus to a part of the kit. */
function stubFindings(system: System, net: readonly NetContact[], kitParts: ReadonlySet<string>): Finding[] {
  const buses = net.flatMap((c) => busesAt(system, c).map((b) => ({ part: c.part, ...b })));
  const [first, last] = buses.filter((b) => b.terminatorOhm !== undefined);
  if (!first) return [];
  const map = neighbours(system, net);
  const trunk = new Set(last ? wayBetween(map, first.part, last.part) : [first.part, "loom"]);
  const kbit = Math.max(...buses.map((b) => b.kbit ?? 0)) || USUAL_KBIT;
  const mostM = (STUB_M_AT_1000 * 1000) / kbit;
  return buses.flatMap(({ part }): Finding[] => {
    if (!kitParts.has(part) || trunk.has(part)) return [];
    const way = wayBetween(map, first.part, part);
    const leaves = way.findLastIndex((p) => trunk.has(p));
    // The lead at which the branch leaves the line counts: its branch is as long as it may be.
    const branch = way.slice(leaves).flatMap((p) => partOf(system, p) ?? []);
    const lengthM = branch.reduce((n, p) => n + (p.type === "lead" ? (p.lengthM ?? 0) : 0), 0);
    if (lengthM <= mostM) return [];
    return [
      {
        rule: "bus-stub",
        level: "watch",
        where: branch.map((p) => p.name).join(" – "),
        text: `The branch to ${partOf(system, part)?.name} is up to ${lengthM.toFixed(2)} m long; at ${kbit} kbit/s it may be ${mostM.toFixed(2)} m.`,
        remedy: "Place the module nearer, shorten the lead, or take the bus nearer to the module.",
      },
    ];
  });
}

function untwistedFindings(system: System, net: readonly NetContact[], kitParts: ReadonlySet<string>): Finding[] {
  const leads = new Set(net.map((c) => c.part).filter((id) => kitParts.has(id)));
  return [...leads].flatMap((id): Finding[] => {
    const part = partOf(system, id);
    if (part?.type !== "lead" || part.twisted || (part.lengthM ?? 0) <= UNTWISTED_M) return [];
    return [
      {
        rule: "bus-untwisted",
        level: "watch",
        where: part.name,
        text: `${(part.lengthM ?? 0).toFixed(2)} m of the bus pair are not twisted and pick up what other wires send.`,
        remedy:
          "Twist the two wires, about one turn every 3 cm (common practice), up to a thumb's width from the plugs.",
      },
    ];
  });
}
