import { sameEnds } from "../model/compose";
import { findPort } from "../model/faults";
import { KIND_NAMES, layerOf, oneDriverOnly } from "../model/kinds";
import { mates } from "../model/mating";
import { Model } from "../model/outcome";
import type { KitProfile } from "../model/profile";
import type { Disturbance, Link, Part, Settings, System } from "../model/types";
import { describeContact, describePort } from "../model/words";

/** One violated rule: which, where, why and what to do. */
export interface Finding {
  rule:
    | "mating"
    | "wrong-place"
    | "direction"
    | "two-drivers"
    | "factory-plug-open"
    | "supply-missing"
    | "ground-missing"
    | "control-missing";
  level: "stop" | "watch";
  place: string;
  text: string;
  remedy: string;
  /** Link concerned, when it is one. */
  link?: string;
}

/**
 * Checks the connections of an as-fitted system against the rules of the trade.
 *
 * @param stock the car as built; its connections must be there again or be opened by the kit on purpose
 * @param open what is not plugged at the moment; leave out to check the plan itself
 * @param settings as they are to stand; a switched feed may depend on them
 */
export function checkConnections(
  stock: System,
  fitted: System,
  kit: KitProfile,
  open: Disturbance = {},
  settings: Settings = {},
): Finding[] {
  const notPlugged = open.openLinks ?? {};
  const plugged = fitted.links.filter((l) => !(l.id in notPlugged));
  return [
    ...plugged.flatMap((l) => matingFindings(fitted, l)),
    ...driverFindings(fitted, plugged),
    ...openFactoryPlugs(stock, plugged, kit),
    ...needFindings(fitted, open, settings),
  ];
}

function matingFindings(system: System, link: Link): Finding[] {
  if (link.air) return [];
  const [a, b] = [findPort(system, link.a), findPort(system, link.b)];
  if (!a?.connector && !b?.connector) return [];
  const problem = a && b ? mates(a, b) : null;
  if (!problem) return [];
  return [
    {
      rule: "mating",
      level: "stop",
      link: link.id,
      place: `${describePort(system, link.a)} – ${describePort(system, link.b)}`,
      text: problem.text,
      remedy: "These two halves are not meant for each other. Look for the right place of each.",
    },
  ];
}

/** Traces every conductor from end to end: exactly one sender on directed kinds, at least one where somebody listens. */
function driverFindings(system: System, links: readonly Link[]): Finding[] {
  const nets = conductors(system, links);
  const findings: Finding[] = [];
  for (const net of nets) {
    const kind = net[0]?.kind;
    if (!kind || !oneDriverOnly(kind) || layerOf(kind) === 0) continue;
    const senders = net.filter((c) => c.direction === "out");
    const listeners = net.filter((c) => c.direction === "in");
    if (senders.length > 1) {
      findings.push({
        rule: "two-drivers",
        level: "stop",
        place: senders.map((s) => describeContact(system, s.ref)).join(" and "),
        text: `Two outputs of ${KIND_NAMES[kind]} are joined.`,
        remedy: "One of the leads is in the wrong place: an output goes to an input.",
      });
    } else if (senders.length === 0 && listeners.length > 1) {
      findings.push({
        rule: "direction",
        level: "stop",
        place: listeners.map((s) => describeContact(system, s.ref)).join(" and "),
        text: `Two inputs of ${KIND_NAMES[kind]} are joined and nothing sends.`,
        remedy: "One of the leads is in the wrong place: an input needs an output.",
      });
    }
  }
  return findings;
}

interface NetContact {
  ref: string;
  kind: keyof typeof KIND_NAMES;
  direction: "in" | "out" | "wire";
}

/** Groups contacts that a conductor joins (links and straight-through joins), by union of sets. */
function conductors(system: System, links: readonly Link[]): NetContact[][] {
  const parent = new Map<string, string>();
  const find = (x: string): string => {
    let root = x;
    while (parent.get(root) !== undefined && parent.get(root) !== root) root = parent.get(root) as string;
    parent.set(x, root);
    return root;
  };
  const unite = (x: string, y: string) => parent.set(find(x), find(y));
  const contacts = new Map<string, NetContact>();
  for (const part of system.parts) {
    for (const port of part.ports) {
      for (const c of port.contacts)
        contacts.set(`${part.id}.${port.id}.${c.id}`, {
          ref: `${part.id}.${port.id}.${c.id}`,
          kind: c.kind,
          direction: c.direction,
        });
    }
    for (const join of part.joins ?? []) {
      const [first, ...rest] = join.contacts.map((x) => `${part.id}.${x}`);
      for (const other of rest) unite(other, first as string);
    }
  }
  for (const link of links) {
    for (const c of findPort(system, link.a)?.contacts ?? []) {
      if (contacts.has(`${link.b}.${c.id}`)) unite(`${link.a}.${c.id}`, `${link.b}.${c.id}`);
    }
  }
  const nets = new Map<string, NetContact[]>();
  for (const contact of contacts.values()) {
    const root = find(contact.ref);
    nets.set(root, [...(nets.get(root) ?? []), contact]);
  }
  return [...nets.values()].filter((net) => net.length > 1);
}

function openFactoryPlugs(stock: System, plugged: readonly Link[], kit: KitProfile): Finding[] {
  return stock.links.flatMap((link): Finding[] => {
    if (
      link.air ||
      onReplacedPart(kit, link) ||
      plugged.some((l) => sameEnds(l, link)) ||
      kit.unplug.some((u) => sameEnds(u, link))
    )
      return [];
    return [
      {
        rule: "factory-plug-open",
        level: "watch",
        link: link.id,
        place: `${describePort(stock, link.a)} – ${describePort(stock, link.b)}`,
        text: `This factory connection is open.${forgotten(stock, link)}`,
        remedy: "Plug it in again, or park it on purpose and note it.",
      },
    ];
  });
}

function onReplacedPart(kit: KitProfile, link: Link): boolean {
  return kit.replaces.some((r) => [link.a, link.b].some((p) => p.startsWith(`${r.part}.`)));
}

/** What stops working when a factory plug is forgotten, from the behaviour of the stock car. */
function forgotten(stock: System, link: Link): string {
  const lost = functionsLostWithout(stock, link.id);
  return lost.length > 0 ? ` Without it: ${lost.join(", ")}.` : "";
}

/** Names of the functions that work in the system but not with one link open. */
export function functionsLostWithout(system: System, linkId: string): string[] {
  const sound = new Model(system);
  const without = new Model(system, { openLinks: { [linkId]: "It is not plugged." } });
  const lost = system.functions.filter((fn) =>
    fn.situations.some((s) => sound.try(fn, s.id).outcome.kind === "ok" && without.try(fn, s.id).outcome.kind !== "ok"),
  );
  return [...new Set(lost.map((f) => f.name))];
}

function needFindings(system: System, open: Disturbance, settings: Settings): Finding[] {
  const model = new Model(system, open, settings);
  // With reverse selected and left the switched feeds (reverse lamp, camera outputs) are live too: what is missing
  // in every one of these situations is not wired.
  const situations = [
    system.usual,
    { ...system.usual, selector: "R" as const },
    { ...system.usual, selector: "D" as const, leftReverse: true },
  ];
  const evaluations = situations.map((s) => model.evaluate(s));
  return system.parts.flatMap((part: Part) =>
    (part.needs ?? []).flatMap((need): Finding[] => {
      const ref = `${part.id}.${need.at}`;
      const kind = part.ports
        .flatMap((p) => p.contacts.map((c) => ({ key: `${p.id}.${c.id}`, kind: c.kind })))
        .find((c) => c.key === need.at)?.kind;
      if (!kind || evaluations.some((e) => e.arrivals(ref).length > 0)) return [];
      const rule = kind === "ground" ? "ground-missing" : layerOf(kind) === 0 ? "supply-missing" : "control-missing";
      return [
        {
          rule,
          level: "stop",
          place: describeContact(system, ref),
          text: `${part.name} does not get ${need.say}.`,
          remedy: `Follow the lead back from ${describeContact(system, ref)} and plug what is open.`,
        },
      ];
    }),
  );
}
