/** Answers of a leaflet that cannot stand together, named at the answer to change. */
import type { z } from "zod";
import type { Pins } from "./vocabulary";

export type Contradiction = [at: (string | number)[], say: string];

/** As a check of a schema. */
export function naming<L>(contradictions: (leaflet: L) => Iterable<Contradiction>) {
  return (leaflet: L, context: z.RefinementCtx): void => {
    for (const [path, message] of contradictions(leaflet)) context.addIssue({ code: "custom", path, message });
  };
}

/** Loudspeaker contacts of the usual radio plug, which carries them unless the sound goes by a ring. */
const SPEAKERS = new Set(["1", "2", "3", "4", "5", "6", "7", "8"]);

/** Each contact has one job. */
export function* pinContradictions(pins: Pins, ring: boolean, at = "pins"): Generator<Contradiction> {
  const taken = new Set<string>();
  for (const [job, contact] of Object.entries(pins)) {
    if (taken.has(contact)) yield [[at, job], `Contact ${contact} has another job already.`];
    else if (!ring && SPEAKERS.has(contact))
      yield [[at, job], `Contacts 1 to 8 carry the loudspeakers; ${contact} is one of them.`];
    taken.add(contact);
  }
}
