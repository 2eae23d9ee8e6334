/** Ways with more work on a job, once the first one has failed. */
import { type WiderWay, widerWays } from "../fit/try-first";
import { isFailure } from "../log/kinds/prove/result";
import type { Job } from "./job";

/** The ways that may help what fails now; none while nothing fails. */
export function widerNow(job: Job): readonly WiderWay[] {
  const { plan, state } = job;
  const failing = new Set(plan.tests.flatMap((t) => (isFailure(state.results.get(t.id)?.value) ? [t.fn.id] : [])));
  if (failing.size === 0) return [];
  return job.once("wider", () =>
    widerWays(plan.documents, state, plan.chosen).filter((w) => w.functions.some((f) => failing.has(f.id))),
  );
}
