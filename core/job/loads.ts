/** What is loaded in the module of the kit, where it has to be loaded on a computer before it is fitted. */
import type { JobState } from "../log/entry";
import type { JobPlan } from "./plan";
import { isSet, type SetState } from "./set-state";

interface WronglyLoaded {
  problem: string;
  remedy: string;
  /** Nobody has looked: the setting that a look is about. */
  notSeen: string | null;
}

/** Why the module is not to be switched on as it is loaded; null when it may, or nothing of it is plugged. */
export function wronglyLoaded(plan: JobPlan, state: SetState & Pick<JobState, "plugged">): WronglyLoaded | null {
  const set = plan.sets.find((s) => s.means === "programming" && !isSet(plan, state, s));
  if (!set || state.plugged.size === 0) return null;
  const load = state.loads.get(set.setting);
  if (!load)
    return {
      problem: "Nobody has looked what is loaded in the module.",
      remedy: `${set.say}. A module for another car looks like a wiring fault.`,
      notSeen: set.setting,
    };
  const seen = { notSeen: null };
  if (load.what === "loaded" && load.car === "another")
    return { ...seen, problem: "The module is loaded for another car.", remedy: "Load it anew, or get the right one." };
  if (load.translation)
    return {
      ...seen,
      problem: "The translation was changed since the module was loaded with it.",
      remedy: "Load the module again, note it in Configure.",
    };
  return { ...seen, problem: "The module is blank.", remedy: `${set.say}. Note what is loaded in Configure.` };
}
