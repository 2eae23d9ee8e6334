/** A lead with where each of its ends goes, so that one cannot be taken for another. */
import { oncePer } from "../model/once";
import { findPort } from "../model/ports";
import type { Part, PortRef, System } from "../model/types";

export interface LeadEnd {
  link: string;
  /** Part and port that the end goes to. */
  part: string;
  port: PortRef;
  /** Names of the part and of the port, for one that has no drawing. */
  name: string;
  into: string;
  /** Name of the end on the lead itself. */
  end: string;
}

export interface LeadRoute {
  name: string;
  ends: LeadEnd[];
}

/** A loom with more ends than this is drawn with those in hand only. */
const MAX_ENDS = 6;

/**
 * The lead at some ports of a connection: of two, the one with fewer ends, as a lead of the kit has against a loom of
 * the car.
 *
 * @returns null where two devices sit in each other
 */
export function leadAt(system: System, ports: readonly PortRef[]): LeadRoute | null {
  const named = new Set(ports.map(partAt));
  const [lead] = system.parts
    .filter((p) => p.type !== "device" && named.has(p.id))
    .sort((a, b) => a.ports.length - b.ports.length);
  if (!lead) return null;
  const { own, route } = wholeLead(system)(lead);
  if (route.ends.length <= MAX_ENDS) return route;
  const inHand = (e: LeadEnd, i: number) => ports.includes(own[i] ?? "") || ports.includes(e.port);
  return { ...route, ends: route.ends.filter(inHand) };
}

/** A lead with all its ends, and its own port at each. Once for a system, so that a page carries each lead once. */
const wholeLead = oncePer((system: System) =>
  oncePer((lead: Part): { own: PortRef[]; route: LeadRoute } => {
    const label = (ref: PortRef) => findPort(system, ref)?.label ?? "";
    const ends = system.links.flatMap((l): [PortRef, LeadEnd][] => {
      const [own, port] = partAt(l.a) === lead.id ? [l.a, l.b] : [l.b, l.a];
      if (partAt(own) !== lead.id || l.air) return [];
      const part = system.parts.find((p) => p.id === partAt(port));
      if (!part) return [];
      return [[own, { link: l.id, part: part.id, port, name: part.name, into: label(port), end: label(own) }]];
    });
    return { own: ends.map(([own]) => own), route: { name: lead.name, ends: ends.map(([, end]) => end) } };
  }),
);

function partAt(port: PortRef): string {
  return port.slice(0, port.indexOf("."));
}
