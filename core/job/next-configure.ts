/** What is to be done about modules, firmware, settings and the first phone. */
import { fieldPlaces, wordRef } from "../coding/map";
import { plugState } from "../configure/programming-plug";
import { compareSwitches } from "../configure/switches";
import { mediumWords } from "../fit/firmware";
import type { JobState } from "../log/entry";
import { lowerFirst } from "../model/labels";
import type { KitSetting } from "../model/profile";
import type { StripView } from "../strip/view";
import type { Job } from "./job";
import type { NextAction } from "./next";
import { pairingOpen } from "./pairing";
import { phonesOf } from "./phones";
import type { JobPlan } from "./plan";
import { isSet } from "./set-state";

/** What is in a module is looked at before it is fitted; later it is one of the settings. */
export function loading(plan: JobPlan, state: JobState): NextAction | null {
  const set = plan.sets.find((s) => s.means === "programming" && !isSet(plan, state, s));
  if (!set || state.plugged.size > 0) return null;
  const load = state.loads.get(set.setting);
  const at = { stage: "configure" as const, at: set.setting };
  if (!load)
    return {
      ...at,
      action: "Look what is loaded in the module",
      why: "A blank one, or one for another car, is found before it is fitted and not after.",
    };
  if (load.translation)
    return {
      ...at,
      action: "Load the translation into the module again",
      why: "It was changed since the module was loaded with it.",
    };
  return load.what === "blank"
    ? { ...at, action: "Load the module on the computer", why: `It is blank. ${set.say}.` }
    : { ...at, action: "Load the module anew, or get the right one", why: "It is loaded for another car." };
}

/** The radio's firmware comes first: what it cannot do no kit can make it do. */
export function firmware(
  { firmware: { steps } }: JobPlan,
  { firmware: { running, interrupted } }: JobState,
): NextAction | null {
  const at = { stage: "configure" as const, at: "firmware" };
  if (running)
    return { ...at, action: `Update to ${running.to} is running`, why: "Say how it ended. Leave the maintainer on." };
  if (interrupted)
    return {
      ...at,
      action: "Save the interrupted update",
      why: "Which version the radio has is not known; nothing else is sure before it is.",
    };
  const [step] = steps;
  return step
    ? {
        ...at,
        action: `Update the firmware to ${step.to}`,
        why: `${step.minutes} min with the maintainer on. ${mediumWords(step)}.`,
      }
    : null;
}

export function configure(job: Job, view: StripView): NextAction | null {
  const { car } = view;
  const { plan, state } = job;
  const plug = plan.documents.kit.programmingPlug;
  const stands = plug && plugState(state.plugEvents, plug);
  if (plug && stands?.inSocket)
    return {
      stage: "configure",
      at: plug.setting,
      action: stands.phase === "finished" ? "Take the programming plug out" : "Watch the programming plug",
      why: "It is in the diagnostic socket and never stays in the car.",
    };
  const first = leftToSet(job).find((s) => s.means !== "menu");
  if (first) return toSet(job, first);
  if (unproven(state))
    return {
      stage: "configure",
      at: "units",
      action: "Scan the control units again",
      why: "A word was written since the last scan; new fault codes would show now.",
    };
  const bank = plan.documents.kit.switchBank;
  const [way] = plan.switches?.conflict ?? [];
  if (way)
    return {
      stage: "configure",
      at: "conflict",
      action: "Choose what this car is to do without",
      why: "Not everything can be had together; how the switches must stand depends on it.",
    };
  if (!bank || !plan.switches?.settings) return onScreen(job, view);
  if (!state.switches)
    return {
      stage: "configure",
      at: "bank",
      action: "Set the switch bank and enter how it stands",
      why: "The module reads it at power-up only; a wrong switch looks like a wrong lead.",
    };
  const wrong = compareSwitches(plan.switches, bank, state.switches)[0];
  if (wrong)
    return {
      stage: "configure",
      at: "bank",
      action: `Set switch ${wrong.number} to ${wrong.should}`,
      why: wrong.breaks.length ? `As it stands it breaks: ${wrong.breaks.join(", ")}.` : "It should stay as delivered.",
    };
  // With the battery off there is no power to take; it comes up when the battery is connected for the tests.
  if (state.powerOut !== null)
    return {
      stage: "configure",
      at: "power-cycle",
      action: "Plug the module in again",
      why: "Its plug was pulled so that it reads the switches.",
    };
  if (!state.powerCycled && car.battery === "connected")
    return {
      stage: "configure",
      at: "power-cycle",
      action: "Take the power from the module once",
      why: "It reads the switches at power-up only.",
    };
  return onScreen(job, view);
}

/** Settings that are not made; what the pairing of a phone brings comes with the pairing. */
function leftToSet({ plan, state }: Job): KitSetting[] {
  return plan.sets.filter((s) => !isSet(plan, state, s) && s.setting !== plan.documents.kit.phone?.setting);
}

function toSet(job: Job, { setting, say, where }: KitSetting): NextAction {
  return {
    stage: "configure",
    at: wordOfSetting(job, setting) ?? setting,
    action: say,
    why: `${where ? `${where}. ` : ""}${leftToSet(job).length} of ${job.plan.sets.length} settings left. Without it the kit behaves as delivered.`,
  };
}

/** What needs a lit screen: the menus, then the first phone. */
function onScreen(job: Job, view: StripView): NextAction | null {
  if (view.car.battery !== "connected") return null;
  const menu = leftToSet(job).find((s) => s.means === "menu");
  return menu ? toSet(job, menu) : phone(job);
}

/** A phone is paired before the tests that need one, and once there is power. */
function phone(job: Job): NextAction | null {
  if (!pairingOpen(job)) return null;
  const [begun] = phonesOf(job.plan, job.state) ?? [];
  return {
    stage: "configure",
    at: "phone",
    action: begun?.step ? `${begun.phone}: ${lowerFirst(begun.step.title)}` : "Pair the first phone",
    why: "The order of cable and wireless decides whether it will come by wireless at all.",
  };
}

/** The coded word in which a setting lies, where the coding map of the job knows it. */
function wordOfSetting({ codingMap }: Job, setting: string): string | null {
  const place = codingMap && fieldPlaces(codingMap).find((p) => p.field.setting === setting && !p.unit.locked);
  return place ? wordRef(place.unit, place.word) : null;
}

/** A word was written and its unit not scanned since. */
function unproven({ words, units }: JobState): boolean {
  return [...words].some(([ref, events]) => {
    const written = events.findLast((e) => e.how === "written");
    const unit = units.get(ref.split(".")[0] ?? "");
    return written !== undefined && (unit?.codesAt ?? "") <= written.at;
  });
}
