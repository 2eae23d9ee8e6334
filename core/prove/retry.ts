/** What a repair can have disturbed, and so must be tried again. */
import type { Fault } from "../model/faults";
import { Model } from "../model/outcome";
import type { Disturbance, Settings, System } from "../model/types";
import type { Test } from "./tests";

/** Kinds of faults that are repaired by taking the whole part in hand: every plug of it comes off. */
const TAKES_OFF: ReadonlySet<Fault["kind"]> = new Set(["leadOpen", "dead"]);

/**
 * The tests to try again after a repair: those that the fault itself changes, and those that a plug which is touched for
 * it would change if it did not go home again.
 *
 * @param system as fitted
 * @param settings as planned
 */
export function retriedAfter(system: System, settings: Settings, tests: readonly Test[], fault: Fault): Test[] {
  const sound = new Model(system, {}, settings);
  const links = new Set(fault.links);
  if (TAKES_OFF.has(fault.kind))
    for (const link of system.links) {
      if (!link.air && fault.parts.some((p) => link.a.startsWith(`${p}.`) || link.b.startsWith(`${p}.`)))
        links.add(link.id);
    }
  const left: Disturbance[] = [...links].map((id) => ({ openLinks: { [id]: "not home after the repair" } }));
  const changed = [fault.disturbance, ...left].map((d) => sound.under(d));
  return tests.filter((t) => {
    const key = sound.sight(t.fn, t.situationId);
    return changed.some((model) => model.sight(t.fn, t.situationId) !== key);
  });
}
