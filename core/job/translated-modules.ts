/** Modules of a job that are told the car by its translation. */
import { ALWAYS, NEVER, outputOf, toldSetting } from "../bus/translation/told";
import { OUTPUTS, type OutputId } from "../bus/translation/translation";
import type { JobState } from "../log/entry";
import type { Settings } from "../model/types";
import type { JobPlan } from "./plan";

/** Outputs of a translation that the part of a setting can be told. */
export function toldOutputs({ fitted }: Pick<JobPlan, "fitted">, setting: string): OutputId[] {
  const part = fitted.parts.find((p) => p.id === setting.split(".")[0]);
  return (part?.settings ?? []).flatMap((s) => outputOf(s) ?? []);
}

/** Modules that the translation of the job was loaded into, with the settings for what they can be told. */
export function translatedModules(
  plan: Pick<JobPlan, "fitted">,
  { loads, translation }: Pick<JobState, "loads" | "translation">,
): { output: OutputId; ref: string }[] {
  return [...loads.values()]
    .filter((l) => l.translation !== null && l.translation === translation?.entry)
    .flatMap(({ setting }) =>
      toldOutputs(plan, setting).map((output) => ({ output, ref: `${setting.split(".")[0]}.${toldSetting(output)}` })),
    );
}

/** What a module with the translation of the job is never told, as there is no rule for it; a lock then stays locked. */
export function notTold(plan: Pick<JobPlan, "fitted">, state: Pick<JobState, "loads" | "translation">): Settings {
  const without = withoutRule(plan, state);
  return Object.fromEntries(without.map((m) => [m.ref, OUTPUTS[m.output].kind === "lock" ? ALWAYS : NEVER]));
}

/** Outputs that a module with the translation of the job wants to be told and for which there is no rule. */
export function withoutRule(plan: Pick<JobPlan, "fitted">, state: Pick<JobState, "loads" | "translation">) {
  const ruled = new Set(state.translation?.rules.map((r) => r.output));
  return translatedModules(plan, state).filter((m) => !ruled.has(m.output));
}
