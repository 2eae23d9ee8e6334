import { asPlugged } from "../connect/as-plugged";
import { Model } from "../model/outcome";
import type { System } from "../model/types";
import type { Job } from "./job";
import { openNow } from "./plan";

/** The car of a job as it is plugged and set at this version of its log, compiled once. */
export function modelNow(job: Job): { system: System; model: Model } {
  return job.once("as plugged", () => {
    const { plan, state } = job;
    const system = asPlugged(plan.fitted, state);
    return { system, model: new Model(system, openNow(plan, state), plan.settings) };
  });
}
