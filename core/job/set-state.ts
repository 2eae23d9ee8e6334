/** What is set, coded, loaded and paired by now, against what the plan wants. */
import type { PairingState } from "../configure/pairing";
import { plugState } from "../configure/programming-plug";
import { settingOf } from "../configure/setting-values";
import { placement, settingsByPlace } from "../lengths/placement";
import type { JobState } from "../log/entry";
import type { KitSetting } from "../model/profile";
import type { Settings, System } from "../model/types";
import { phonesOf } from "./phones";
import type { JobPlan } from "./plan";

/** What decides whether a setting stands as it is to. */
export type SetState = Pick<JobState, "made" | "coded" | "plugEvents" | "pairing" | "loads" | "translation">;

/**
 * True when a setting of the kit stands as planned: as the coded word of the car or the version of the firmware says
 * where they are known, else as it was ticked. The one answer for Configure, Connect, the open points and the model.
 */
export function isSet(
  plan: Pick<JobPlan, "firmware" | "fitted" | "documents" | "chosen">,
  { made, coded, plugEvents, pairing, loads, translation }: SetState,
  { setting, value }: Pick<KitSetting, "setting" | "value">,
): boolean {
  const { programmingPlug, phone } = plan.documents.kit;
  if (programmingPlug?.setting === setting) return plugState(plugEvents, programmingPlug).done;
  if (phone?.setting === setting) return phonesOf(plan, { pairing })?.some(knowsPin) ?? false;
  const load = loads.get(setting);
  if (load?.translation) return load.translation === translation?.entry;
  if (load) return load.what === "loaded" && load.car !== "another";
  const said = coded.get(setting) ?? saidByFirmware(plan, setting);
  return said === undefined ? made.has(setting) : said === value;
}

/** True for a phone that the module has accepted. */
function knowsPin({ steps }: PairingState): boolean {
  return (
    steps.some((s) => (s.id === "pin" || s.id === "add") && s.done) && !steps.some((s) => s.id === "pin" && !s.done)
  );
}

/** Value of a setting as the version in the radio has it; undefined where that says nothing. */
export function saidByFirmware(
  { firmware, fitted }: Pick<JobPlan, "firmware" | "fitted">,
  setting: string,
): string | undefined {
  if (firmware.present === "" || !(setting in firmware.settingsAfter)) return undefined;
  return firmware.settingsNow[setting] ?? deliveredValue(fitted, setting);
}

/** The value at which a setting (`part.setting`) comes out of its box. */
export function deliveredValue(system: System, ref: string): string | undefined {
  return settingOf(system, ref)?.initial;
}

/** Settings that follow from where the parts of the kit lie. */
export function settingsOfPlaces(plan: JobPlan, { placed }: Pick<JobState, "placed">): Settings {
  const { car, kit } = plan.documents;
  return settingsByPlace(car, plan.fitted, placement(kit, plan.applies, placed));
}
