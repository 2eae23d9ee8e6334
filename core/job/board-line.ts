import { isBlank } from "./blank";
import { nextAction } from "./next";
import type { JobPlan } from "./plan";
import type { JobState } from "./state";

/** What the board and the library count of a job. */
export interface BoardLine {
  stage: string;
  nextAction: string;
  kit: { slug: string; title: string };
  variantSlug: string;
  carSlug: string;
}

/** The line of a job on the board at a moment (ISO 8601); identifiers are empty while radio or kit are to be found. */
export function boardLine(plan: JobPlan, state: JobState, now: string): BoardLine {
  const next = nextAction(plan, state, now);
  const { kit, variant } = plan.documents;
  return {
    stage: next.reached ?? next.stage,
    nextAction: next.action,
    kit: { slug: isBlank(kit) ? "" : kit.id, title: kit.title },
    variantSlug: isBlank(variant) ? "" : variant.id,
    carSlug: plan.documents.car.id,
  };
}
