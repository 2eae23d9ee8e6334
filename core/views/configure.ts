/** What Configure shows of a job. */

import { plugChoices, plugState } from "../configure/programming-plug";
import { compareSwitches } from "../configure/switches";
import { sideEffectsOf } from "../fit/firmware";
import type { Job } from "../job/job";
import { noPower } from "../job/next";
import { isSet } from "../job/plan";
import { switchSuspects } from "../job/switch-suspects";
import { UPDATE_VOLTS } from "../log/kinds/configure/firmware";
import { codingView } from "./coding";

/** @param now ISO 8601, UTC */
export function configureView(job: Job, now: string) {
  const { state, plan } = job;
  const bank = plan.documents.kit.switchBank;
  return {
    coding: codingView(job),
    firmware: firmwareView(job),
    plug: plugView(job),
    sets: plan.sets.map((s) => ({ ...s, done: isSet(plan, state, s) })),
    bank:
      bank && plan.switches
        ? {
            bank,
            solution: plan.switches,
            givenUp: state.givenUp.map((id) => plan.fitted.functions.find((f) => f.id === id)?.name ?? id),
            entered: state.switches,
            differences: state.switches ? compareSwitches(plan.switches, bank, state.switches) : [],
            suspects: job.once("switchSuspects", () => switchSuspects(plan, state)),
            powerCycled: state.powerCycled,
            /** Why the module has no power that could be taken; null when it has. */
            noPower: noPower(job, now),
          }
        : null,
  };
}

/** The programming plug of the kit as it stands. */
function plugView({ plan, state }: Job) {
  const plug = plan.documents.kit.programmingPlug;
  if (!plug) return null;
  const now = plugState(state.plugEvents, plug);
  return { plug, state: now, choices: plugChoices(now) };
}

/** The updates of the radio's firmware as they stand; null where none is to be made and none was. */
function firmwareView({ plan, state }: Job) {
  const { steps, present } = plan.firmware;
  const { running, interrupted, version } = state.firmware;
  if (steps.length === 0 && !running && !interrupted && version === null) return null;
  const [step] = steps;
  return {
    present,
    running,
    interrupted,
    /** The one that is next. */
    step: step ? { ...step, effects: sideEffectsOf(plan.documents.variant, step), last: steps.length === 1 } : null,
    left: steps.length,
    atLeastVolts: UPDATE_VOLTS,
  };
}
