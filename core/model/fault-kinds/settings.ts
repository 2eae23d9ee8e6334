/** Settings at another value than planned: switches, menus, coded words, contacts moved, data loaded. */
import { NEVER } from "../../bus/translation/told";
import type { Fault, Touched } from "../faults";
import { lowerFirst } from "../labels";
import type { KitSetting, SettingMeans } from "../profile";
import type { Part, Setting, System } from "../types";

/** How often, against the other kinds. Assumed as all of these weights. */
const WEIGHTS = { kit: 5, set: 5, untouched: 0.2 };

/** Every setting of the kit and the car at each of its other values; what nobody was to set weighs little. */
export function settingFaults(system: System, touched: Touched): Fault[] {
  return system.parts.flatMap((part) =>
    (part.settings ?? []).flatMap((setting) => {
      if (setting.follows === "messages") return [messageFault(part, setting)];
      const ref = `${part.id}.${setting.id}`;
      const should = touched.planned[ref] ?? system.settings?.[ref] ?? setting.initial;
      return setting.values
        .filter((v) => v !== should)
        .map((value) => settingFault(part, setting, { should, value }, touched));
    }),
  );
}

function settingFault(
  part: Part,
  setting: Setting,
  { should, value }: { should: string; value: string },
  { parts, bank, sets = [] }: Touched,
): Fault {
  const ref = `${part.id}.${setting.id}`;
  const number = bank?.part === part.id ? bank.switches.indexOf(setting.id) + 1 : 0;
  const set = sets.find((s) => s.setting === ref);
  const own = parts.has(part.id) ? WEIGHTS.kit : WEIGHTS.untouched;
  return {
    id: `setting:${ref}=${value}`,
    kind: "setting",
    ...settingWords(part, setting, { should, value }, number, set),
    parts: [part.id],
    links: [],
    normal: false,
    weight: number > 0 ? WEIGHTS.kit / (bank?.switches.length ?? 1) : set ? WEIGHTS.set : own,
    disturbance: { settings: { [ref]: value } },
  };
}

/** How a value comes to be wrong, by how it is set. */
const CAUSES: Readonly<Record<SettingMeans, string>> = {
  coding: "The coded word was not written, or another was.",
  gateway: "The entry of the gateway was not made.",
  menu: "The menu stands otherwise, or has gone back by itself.",
  programmingPlug: "The programming plug was not used, or taken out too early.",
  firmware: "The version in it has it otherwise.",
  contacts: "The contacts were not moved, or sit in the wrong cavities.",
  programming: "It is blank, or holds the data of another car.",
};

function settingWords(
  part: Part,
  setting: Setting,
  { should, value }: { should: string; value: string },
  number: number,
  set: KitSetting | undefined,
): Pick<Fault, "title" | "cause" | "remedy"> {
  if (number > 0)
    return {
      title: `Switch ${number} stands ${value}, not ${should}`,
      cause: "It was set wrongly, or changed while the module had power.",
      remedy: `Unplug the module, set switch ${number} to ${should}, plug it in again.`,
    };
  return {
    title: `${setting.label} stands ${value}, not ${should}`,
    cause: set ? CAUSES[set.means] : `${part.name} is set or placed differently from the plan.`,
    remedy: set ? set.say : `Change ${lowerFirst(setting.label)} to ${should}.`,
  };
}

/**
 * The data in a module do not know a message of the car. That they take something as given at all times is left to the
 * proof of the translation: hardly any test would show it.
 */
function messageFault(part: Part, setting: Setting): Fault {
  const ref = `${part.id}.${setting.id}`;
  const others = (part.settings ?? []).filter((s) => s.follows === "messages").length;
  return {
    id: `setting:${ref}=${NEVER}`,
    kind: "setting",
    title: `${part.name} does not understand the car: ${setting.label}`,
    cause: "The data in it are for another car or version, or its translation has no rule for this.",
    remedy: `Load the data of just this car, or mend the translation: ${setting.label}.`,
    parts: [part.id],
    links: [],
    normal: false,
    weight: WEIGHTS.kit / others,
    disturbance: { settings: { [ref]: NEVER } },
  };
}
