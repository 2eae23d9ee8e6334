/** Ribbons and their lock bars: a ribbon that is home and not locked slides out, or never makes contact. */
import type { JobState } from "../log/entry";
import { oncePer } from "../model/once";
import { findPort } from "../model/ports";
import { type Connection, isMade, type JobPlan, type Plugging } from "./plan";

/** Connections with a ribbon: a plug without a way round, ribbon contacts, or a lock bar that a step of the kit opens. */
export const ribbons = oncePer((plan: JobPlan): ReadonlySet<string> => {
  const barred = new Set(
    (plan.documents.kit.steps ?? []).flatMap((s) =>
      (s.opens ?? []).filter((o) => o.lock === "slide").flatMap((o) => [o.a, o.b]),
    ),
  );
  const isRibbon = ({ a, b }: Connection) =>
    [a, b].some((ref) => {
      const port = findPort(plan.fitted, ref);
      return barred.has(ref) || port?.connector?.reversible || port?.contacts.some((c) => c.kind === "ribbon");
    });
  return new Set(plan.connections.filter(isRibbon).map((c) => c.link));
});

/** Ribbons that were put in and whose lock bar nobody has shut since. */
export function unlocked(plan: JobPlan, state: Plugging & Pick<JobState, "locked">): Connection[] {
  const bars = ribbons(plan);
  return plan.connections.filter(
    (c) => bars.has(c.link) && state.plugged.has(c.link) && !state.locked.has(c.link) && isMade(plan, state, c),
  );
}
