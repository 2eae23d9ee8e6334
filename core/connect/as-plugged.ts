/** The system as the technician says it is plugged, which need not be as it is planned. */

import { describePort } from "../model/labels";
import { mates } from "../model/mating";
import { findPort } from "../model/ports";
import type { Link, PortRef, System } from "../model/types";
import type { Finding } from "./rules";

/** How the leads sit, where that is not as planned. */
export interface AsPlugged {
  /** Place in which a plug sits, by connection. */
  plugAt: ReadonlyMap<string, PortRef>;
  /** Connections whose plug is turned over. */
  turned: ReadonlySet<string>;
}

/**
 * Places of the part at the far end of a connection into which its plug goes: the planned one and every other that it
 * mates with. One place means that it cannot be plugged wrongly there.
 */
export function placesFor(system: System, link: Pick<Link, "a" | "b">): PortRef[] {
  const plug = findPort(system, link.a);
  const [partId] = link.b.split(".");
  const part = system.parts.find((p) => p.id === partId);
  if (!plug?.connector || !part) return [link.b];
  return part.ports
    .filter((port) => port.connector && (`${partId}.${port.id}` === link.b || mates(plug, port) === null))
    .map((port) => `${partId}.${port.id}`);
}

/** The system with leads where they sit. A lead that took the place of another leaves that one without. */
export function asPlugged(system: System, { plugAt, turned }: AsPlugged): System {
  if (plugAt.size === 0 && turned.size === 0) return system;
  return {
    ...system,
    links: system.links.map((l) => ({
      ...l,
      b: plugAt.get(l.id) ?? l.b,
      ...(turned.has(l.id) ? { reversed: !l.reversed } : {}),
    })),
  };
}

/** Leads that sit where they do not belong, each with where it is to go; two in each other's place are one finding. */
export function misplaced(system: System, plugAt: AsPlugged["plugAt"]): Finding[] {
  const wrong = system.links.filter((l) => (plugAt.get(l.id) ?? l.b) !== l.b);
  const told = new Set<string>();
  return wrong.flatMap((l): Finding[] => {
    if (told.has(l.id)) return [];
    const at = plugAt.get(l.id) ?? l.b;
    const other = wrong.find((o) => o.id !== l.id && o.b === at && plugAt.get(o.id) === l.b);
    if (other) told.add(other.id);
    const moved = [l, ...(other ? [other] : [])];
    return [
      {
        rule: other ? "exchanged-pair" : "wrong-place",
        level: "stop",
        link: l.id,
        where: moved.map((m) => describePort(system, m.a)).join(" and "),
        text: other
          ? `Each sits in the other's place: ${describePort(system, l.b)} and ${describePort(system, other.b)}.`
          : `It sits in ${describePort(system, at)}.`,
        remedy: other
          ? "Exchange the two plugs before anything is switched on."
          : `Move it to ${describePort(system, l.b)} before anything is switched on.`,
        fix: {
          say: other ? "They are exchanged" : "It is moved",
          press: moved.map((m) => ({ kind: "connect.plug", data: { link: m.id, plugged: true } })),
        },
      },
    ];
  });
}
