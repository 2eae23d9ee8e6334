/** What can be the matter with the car of a job, by its plan. */
import { type Look, looksOf } from "../diagnose/checks";
import { type Hypothesis, hypothesesOf } from "../diagnose/hypothesis";
import { oncePer } from "../model/once";
import { Model } from "../model/outcome";
import type { JobPlan } from "./plan";

const of = oncePer((plan: JobPlan) => {
  const sound = new Model(plan.fitted, {}, plan.settings);
  const hypotheses = hypothesesOf(plan.fitted, plan.touched, plan.tests, sound);
  return { hypotheses, looks: looksOf(plan.fitted, plan.touched, hypotheses) };
});

export const hypothesesOfPlan = (plan: JobPlan): readonly Hypothesis[] => of(plan).hypotheses;
export const looksOfPlan = (plan: JobPlan): readonly Look[] => of(plan).looks;

/**
 * Looks that say nothing more once a fault was repaired: those at its own place, at the plugs of its parts, and the
 * lamps, codes, waits and exchanges, which show the car as it was.
 */
export function looksTouchedBy(plan: JobPlan, faultId: string): string[] {
  const { hypotheses, looks } = of(plan);
  const fault = hypotheses.find((h) => h.id === faultId);
  if (!fault) return [];
  const own = new Set([fault.settledBy, ...fault.links.map((l) => `look:${l}`)]);
  const ends = plan.fitted.links.filter((l) =>
    [l.a, l.b].some((port) => fault.parts.includes(port.split(".")[0] as string)),
  );
  for (const { id } of ends) own.add(`look:${id}`);
  const lasting = (id: string) => /^(look|measure|set|state):/.test(id);
  return looks.flatMap(({ id }) => (own.has(id) || !lasting(id) ? [id] : []));
}
