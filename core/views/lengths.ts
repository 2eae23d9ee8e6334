/** What the lengths page of Connect shows of a job. */

import { checkConnections } from "../connect/rules";
import { PLACE_RULES } from "../connect/rules/places";
import { planInput } from "../job/connect";
import type { Job } from "../job/job";
import { lengthsOf } from "../lengths/job";
import { leadId } from "../lengths/lead-id";
import { movable, placement } from "../lengths/placement";
import type { RunSegment } from "../model/profile";

export function lengthsView(job: Job) {
  const { plan, state } = job;
  const { car, kit } = plan.documents;
  const placing = placement(kit, plan.applies, state.placed);
  const lengths = job.once("lengths", () => lengthsOf(car, kit, plan.fitted, plan.applies, state.placed));
  return {
    ...lengths,
    /** Places that each lead passes, in order. */
    ways: lengths.leads.map(({ lead, name, check }) => ({
      id: leadId(lead),
      name,
      way: wayOf(lead.from, check?.run.segments ?? [], lead.to),
      short: check?.verdict === "short",
    })),
    plan: car.drawings?.plan ?? null,
    box: kit.box,
    laidOut: state.laidOut,
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

/** The places along segments, each of which may be named in either direction. */
function wayOf(from: string, segments: readonly RunSegment[], to: string): string[] {
  const way = [from];
  for (const s of segments) way.push(way.at(-1) === s.from ? s.to : s.from);
  return way.at(-1) === to ? way : [from, to];
}
