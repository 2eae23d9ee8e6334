import { isBlank } from "./blank";
import type { Job } from "./job";
import { nextAction } from "./order/order";

/** What the board and the library count of a job. */
export interface BoardLine {
  /** A stage, or `unfinished` for a car that left so. */
  stage: string;
  nextAction: string;
  kit: { slug: string; title: string };
  variantSlug: string;
  carSlug: string;
}

/** The line of a job on the board at a moment (ISO 8601); identifiers are empty while radio or kit are to be found. */
export function boardLine(job: Job, now: string): BoardLine {
  const next = nextAction(job, now);
  const { plan, state } = job;
  const { kit, variant } = plan.documents;
  return {
    stage: state.closed?.as === "unfinished" ? "unfinished" : (next.reached ?? next.stage),
    nextAction: next.action,
    kit: { slug: isBlank(kit) ? "" : kit.id, title: kit.title },
    variantSlug: isBlank(variant) ? "" : variant.id,
    carSlug: plan.documents.car.id,
  };
}
