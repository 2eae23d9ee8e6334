/** The touch panel of a job in each picture: what was touched, what follows, which setting would explain it. */
import type { JobState } from "../log/entry";
import { type Fault, singleFaults } from "../model/faults";
import { Model } from "../model/outcome";
import type { Test } from "../prove/tests";
import { type TouchOutcome, touchOutcome } from "../prove/touch-fit";
import { type JobPlan, openNow } from "./plan";

/** Tests that see where a finger arrives. */
export function touchTests({ tests }: Pick<JobPlan, "tests">): Test[] {
  const seen = new Set<string>();
  return tests.filter((t) => {
    if (seen.has(t.fn.id) || !t.fn.observe.some((o) => o.where.touch === "finger")) return false;
    seen.add(t.fn.id);
    return true;
  });
}

export function touchOf({ touch }: Pick<JobState, "touch">, test: Test): TouchOutcome {
  return touchOutcome(touch.get(test.id) ?? new Map());
}

/**
 * Single settings of the parts of the job that would explain what was measured, in words: at another value they would take
 * the touch away, or turn it the way it stands.
 *
 * @returns null when the model expects no touch as the job stands now
 */
export function explainingSettings(plan: JobPlan, state: JobState, test: Test): string[] | null {
  const outcome = touchOf(state, test);
  const sound = new Model(plan.fitted, {}, plan.settings);
  const right = sound.sight(test.fn, test.situationId);
  if (outcome.kind === "mapped") return settingsThatTurn(plan, test, outcome.stand).map((f) => f.title);
  const now = new Model(plan.fitted, openNow(plan, state), { ...plan.settings, ...state.switches });
  if (now.sight(test.fn, test.situationId) !== right) return null;
  return settingFaultsOf(plan)
    .filter((f) => sound.under(f.disturbance).sight(test.fn, test.situationId) !== right)
    .map((f) => f.title);
}

/** Single settings at which the picture would stand to the glass just as it was measured. */
export function settingsThatTurn(plan: JobPlan, { fn, situationId }: Test, stand: string): Fault[] {
  const sound = new Model(plan.fitted, {}, plan.settings);
  return settingFaultsOf(plan).filter((f) => {
    const tried = sound.under(f.disturbance).try(fn, situationId).outcome;
    return tried.kind === "wrong" && tried.attribute === "stand" && tried.got === stand;
  });
}

function settingFaultsOf({ fitted, touched }: JobPlan): Fault[] {
  return singleFaults(fitted, touched).filter((f) => f.kind === "setting");
}
