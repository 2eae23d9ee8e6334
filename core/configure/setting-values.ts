/** What each value of a setting does to the functions of the car. */
import type { Model } from "../model/outcome";
import type { Setting, Settings, System } from "../model/types";

export interface SettingValue {
  value: string;
  /** As the plan wants it, and as it comes out of its box. */
  planned: boolean;
  delivered: boolean;
  /** Functions that work as planned and no longer with this value. */
  breaks: string[];
}

/** A setting of the system (`part.setting`) by its reference. */
export function settingOf(system: System, ref: string): Setting | undefined {
  const [part, id] = ref.split(".");
  return system.parts.find((p) => p.id === part)?.settings?.find((s) => s.id === id);
}

/**
 * All values of a setting, each tried in the model beside the plan.
 *
 * @param ref `part.setting`; no values for one that the system does not have
 */
export function settingValues(model: Model, settings: Settings, ref: string): SettingValue[] {
  const { system } = model;
  const setting = settingOf(system, ref);
  return (setting?.values ?? []).map((value) => ({
    value,
    planned: settings[ref] === value,
    delivered: setting?.initial === value,
    breaks: settings[ref] === value ? [] : lostWith(model, settings, { [ref]: value }).map((fn) => fn.name),
  }));
}

/** Functions that work with the settings as they are and no longer with a change. */
export function lostWith(model: Model, settings: Settings, change: Settings): System["functions"] {
  const workWith = (all: Settings) => (fn: System["functions"][number]) =>
    fn.situations.every((s) => model.see(fn, s.id, all).kind === "ok");
  const after = workWith({ ...settings, ...change });
  return model.system.functions.filter(workWith(settings)).filter((fn) => !after(fn));
}
