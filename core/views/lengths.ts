/** What the lengths page of Connect shows of a job. */
import { checkConnections } from "../connect/rules";
import { PLACE_RULES } from "../connect/rules/places";
import { planInput } from "../job/connect";
import type { Job } from "../job/job";
import { lengthsOf } from "../lengths/job";
import { movable, placement } from "../lengths/placement";

export function lengthsView(job: Job) {
  const { plan, state } = job;
  const { car, kit } = plan.documents;
  const placing = placement(kit, plan.applies, state.placed);
  return {
    ...job.once("lengths", () => lengthsOf(car, kit, plan.fitted, plan.applies, state.placed)),
    box: kit.box,
    car: car.id,
    places: [
      ...new Set([...(car.places ?? []).map((p) => p.name), ...(car.runs ?? []).flatMap((r) => [r.from, r.to])]),
    ],
    parts: movable(plan.fitted, placing).map((p) => ({
      id: p.id,
      name: p.name,
      place: placing.places.get(p.id) ?? "",
    })),
    findings: job
      .once("planned findings", () => checkConnections(planInput(plan, state)))
      .filter((f) => PLACE_RULES.has(f.rule)),
  };
}
