/** What a repair can have disturbed, and so must be tried again. */
import type { Hypothesis } from "../diagnose/hypothesis";
import { Model } from "../model/outcome";
import type { Disturbance, Settings, System } from "../model/types";
import type { Test } from "./tests";

/** Kinds of faults that are repaired by taking the whole part in hand: every plug of it comes off. */
const TAKES_OFF: ReadonlySet<Hypothesis["kind"]> = new Set(["leadOpen", "dead"]);

/**
 * The tests to try again after a repair: those that the fault itself changes, and those that a plug which is touched for
 * it would change if it did not go home again.
 *
 * @param system as fitted
 * @param settings as planned
 */
export function retriedAfter(
  system: System,
  settings: Settings,
  tests: readonly Test[],
  cause: Pick<Hypothesis, "kind" | "parts" | "links" | "fault" | "shows">,
): Test[] {
  const sound = new Model(system, {}, settings);
  const links = new Set(cause.links);
  if (TAKES_OFF.has(cause.kind))
    for (const link of system.links) {
      if (!link.air && cause.parts.some((p) => link.a.startsWith(`${p}.`) || link.b.startsWith(`${p}.`)))
        links.add(link.id);
    }
  const left: Disturbance[] = [...links].map((id) => ({ openLinks: { [id]: "not home after the repair" } }));
  const changed = [...(cause.fault ? [cause.fault.disturbance] : []), ...left].map((d) => sound.under(d));
  return tests.filter((t) => {
    const key = sound.sight(t.fn, t.situationId);
    if (cause.shows?.(t).some(([sight]) => sight !== "works")) return true;
    return changed.some((model) => model.sight(t.fn, t.situationId) !== key);
  });
}
