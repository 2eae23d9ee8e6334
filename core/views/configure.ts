/** What Configure shows of a job. */
import { compareSwitches } from "../configure/switches";
import type { Job } from "../job/job";

export function configureView({ state, plan }: Job) {
  const bank = plan.documents.kit.switchBank;
  return {
    sets: plan.sets.map((s) => ({ ...s, done: state.made.has(s.setting) })),
    bank:
      bank && plan.switches
        ? {
            bank,
            solution: plan.switches,
            givenUp: state.givenUp.map((id) => plan.fitted.functions.find((f) => f.id === id)?.name ?? id),
            entered: state.switches,
            differences: state.switches ? compareSwitches(plan.switches, bank, state.switches) : [],
            powerCycled: state.powerCycled,
          }
        : null,
  };
}
