/** What can be the matter with the car of a job, by its plan. */
import { type Look, looksOf } from "../diagnose/checks";
import { type Hypothesis, hypothesesOf } from "../diagnose/hypothesis";
import type { JobPlan } from "./plan";

/** A plan is never changed, so what follows from it is kept as long as it is. */
const known = new WeakMap<JobPlan, { hypotheses: Hypothesis[]; looks: Look[] }>();

function of(plan: JobPlan) {
  let found = known.get(plan);
  if (!found) {
    const hypotheses = hypothesesOf(plan.fitted, plan.touched);
    found = { hypotheses, looks: looksOf(plan.fitted, plan.touched, hypotheses) };
    known.set(plan, found);
  }
  return found;
}

export const hypothesesOfPlan = (plan: JobPlan): readonly Hypothesis[] => of(plan).hypotheses;
export const looksOfPlan = (plan: JobPlan): readonly Look[] => of(plan).looks;
