/** Leads on the plan of the car, along the places that they pass. */
import { type PlanDrawing, type Point, points } from "./drawing";

export interface DrawnLead {
  id: string;
  name: string;
  /** Places in the order in which the lead passes them. */
  way: readonly string[];
}

/** The line of a lead through the places that the plan knows; null when it knows fewer than two of them. */
export function lineOf(plan: PlanDrawing, { way }: DrawnLead): Point[] | null {
  const at = new Map(plan.places.map((p) => [p.name, p.at]));
  const line = way.flatMap((name) => {
    const point = at.get(name);
    return point ? [point] : [];
  });
  return line.length > 1 ? line : null;
}

/** The place of a plan that is nearest to a point: where something dragged there comes to lie. */
export function nearestPlace(plan: PlanDrawing, [x, y]: Point, among: ReadonlySet<string>): string | null {
  let best: { name: string; distance: number } | null = null;
  for (const { name, at } of plan.places) {
    if (!among.has(name)) continue;
    const distance = Math.hypot(at[0] - x, at[1] - y);
    if (!best || distance < best.distance) best = { name, distance };
  }
  return best?.name ?? null;
}

/** The car from above with its loudspeakers alone, its outline as polygons have it: pages carry it for every car. */
export interface SpeakerPlan {
  width: number;
  height: number;
  body: string;
  speakers: NonNullable<PlanDrawing["speakers"]>;
}

/** Null when the drawing does not say where the loudspeakers are. */
export function speakerPlan({ width, height, body, speakers = [] }: PlanDrawing): SpeakerPlan | null {
  return speakers.length > 0 ? { width, height, body: points(body), speakers } : null;
}
