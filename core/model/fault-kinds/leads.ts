/** Leads that are open, whole or in one conductor. */
import type { Fault } from "../faults";
import { shortContact } from "../labels";
import type { Part } from "../types";

/** How often, against the other kinds. Assumed as all of these weights. */
const WEIGHT = 3;

export function leadFaults(part: Part): Fault[] {
  if (part.type !== "lead") return [];
  const joins = part.joins ?? [];
  const whole: Fault = {
    id: `open:${part.id}`,
    kind: "leadOpen",
    title: `${part.name} is open`,
    cause: "The lead is broken or a crimp has no contact.",
    remedy: `Replace or repair ${part.name}.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: WEIGHT,
    // A lead whose conductors go by a setting has no plain joins; open, it passes nothing on.
    disturbance:
      joins.length > 0
        ? { openJoins: { [part.id]: `${part.name} is open.` } }
        : { deadParts: { [part.id]: `${part.name} is open.` } },
  };
  if (joins.length < 2) return [whole];
  const single = joins.map((join, i): Fault => {
    const contact = conductorAt(part, join.contacts[0] ?? "");
    return {
      ...whole,
      id: `open:${part.id}/${i}`,
      title: `${part.name}: conductor at ${contact} is open`,
      cause: "One conductor is broken or its contact is pushed back in the housing.",
      remedy: `Repair the conductor at ${contact} of ${part.name}.`,
      weight: WEIGHT / joins.length,
      disturbance: { openJoins: { [`${part.id}/${i}`]: `${part.name}: the conductor at ${contact} is open.` } },
    };
  });
  return [whole, ...single];
}

/** Where a conductor ends, in words. */
function conductorAt(part: Part, end: string): string {
  const [portId, contactId] = end.split(".");
  const port = part.ports.find((p) => p.id === portId);
  const contact = port?.contacts.find((c) => c.id === contactId);
  return port && contact ? `${port.label}, ${shortContact(contact)},` : end;
}
