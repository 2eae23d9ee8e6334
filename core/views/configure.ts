/** What Configure shows of a job. */
import { compareSwitches } from "../configure/switches";
import type { Job } from "../job/job";
import { noPower } from "../job/next";
import { isSet } from "../job/plan";
import { codingView } from "./coding";

/** @param now ISO 8601, UTC */
export function configureView(job: Job, now: string) {
  const { state, plan } = job;
  const bank = plan.documents.kit.switchBank;
  return {
    coding: codingView(job),
    sets: plan.sets.map((s) => ({ ...s, done: isSet(state, s) })),
    bank:
      bank && plan.switches
        ? {
            bank,
            solution: plan.switches,
            givenUp: state.givenUp.map((id) => plan.fitted.functions.find((f) => f.id === id)?.name ?? id),
            entered: state.switches,
            differences: state.switches ? compareSwitches(plan.switches, bank, state.switches) : [],
            powerCycled: state.powerCycled,
            /** Why the module has no power that could be taken; null when it has. */
            noPower: noPower(job, now),
          }
        : null,
  };
}
