/** Behind which panels the parts of a job sit, for pointing at them on the dash. */
import type { JobPlan } from "../job/plan";
import { placement } from "../lengths/placement";

/**
 * Names under which each part is found on the dash: its own, and the panels behind which it is reached. Parts of which
 * nothing is known are left out.
 *
 * @param moved place by part, where the technician put it elsewhere than its profile says
 */
export function whereOnDash(plan: JobPlan, moved: ReadonlyMap<string, string>): Record<string, string[]> {
  const { car, kit } = plan.documents;
  const { places, leads } = placement(kit, plan.applies, moved);
  const where: Record<string, string[]> = {};
  for (const { id } of plan.fitted.parts) {
    const own = [places.get(id), ...leads.filter((l) => l.part === id).flatMap((l) => [l.from, l.to])].flatMap(
      (place) => place ?? [],
    );
    const panels = car.stripPlan.steps.flatMap((s) => {
      const { parts = [], ports = [], places: reached = [] } = s.reaches ?? {};
      const here =
        parts.includes(id) || ports.some((p) => p.startsWith(`${id}.`)) || own.some((place) => reached.includes(place));
      return here && s.panel ? [s.panel] : [];
    });
    where[id] = [id, ...new Set(panels)];
  }
  return where;
}
