/** Devices that have their supply and do nothing. */
import type { Fault } from "../faults";
import type { Part } from "../types";

/** How often, against the other kinds. Assumed as all of these weights. */
const WEIGHTS = { kit: 1.5, car: 0.2 };

export function deadFault(part: Part, kitParts: ReadonlySet<string>): Fault {
  return {
    id: `dead:${part.id}`,
    kind: "dead",
    title: `${part.name} is dead`,
    cause: "The part has its supply and does nothing.",
    remedy: `Replace ${part.name}, or try it on another car first.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: kitParts.has(part.id) ? WEIGHTS.kit : WEIGHTS.car,
    disturbance: { deadParts: { [part.id]: `${part.name} does nothing though it has its supply.` } },
  };
}
