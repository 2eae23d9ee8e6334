/** The system as the technician says it is plugged, which need not be as it is planned. */
import { findPort } from "../model/faults";
import { mates } from "../model/mating";
import type { Link, PortRef, System } from "../model/types";
import { describePort } from "../model/words";
import type { Finding } from "./check";

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
export function asPlugged(system: System, plugAt: ReadonlyMap<string, PortRef>): System {
  if (plugAt.size === 0) return system;
  return {
    ...system,
    links: system.links.map((l) => {
      const at = plugAt.get(l.id);
      return at === undefined ? l : { ...l, b: at };
    }),
  };
}

/** Leads that sit where they do not belong, each with where it is to go. */
export function misplaced(system: System, plugAt: ReadonlyMap<string, PortRef>): Finding[] {
  return system.links.flatMap((l): Finding[] => {
    const at = plugAt.get(l.id);
    if (at === undefined || at === l.b) return [];
    return [
      {
        rule: "wrong-place",
        level: "stop",
        link: l.id,
        place: describePort(system, l.a),
        text: `It sits in ${describePort(system, at)}.`,
        remedy: `Move it to ${describePort(system, l.b)} before anything is switched on.`,
      },
    ];
  });
}
