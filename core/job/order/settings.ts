/** What is to be done about firmware, settings, switches and the first phone. */
import { fieldPlaces, wordRef } from "../../coding/map";
import { plugState } from "../../configure/programming-plug";
import { compareSwitches } from "../../configure/switches";
import { mediumWords } from "../../fit/firmware";
import type { JobState } from "../../log/entry";
import { lowerFirst } from "../../model/labels";
import type { KitSetting, SettingMeans } from "../../model/profile";
import type { StripView } from "../../strip/view";
import type { Job } from "../job";
import { pairingOpen } from "../pairing";
import { phonesOf } from "../phones";
import { isSet } from "../set-state";
import { type Act, onPage } from "./act";

/** The radio's firmware comes first: what it cannot do no kit can make it do. */
export function* firmware({
  plan: {
    firmware: { steps },
  },
  state: {
    firmware: { running, interrupted },
  },
}: Pick<Job, "plan" | "state">): Generator<Act> {
  const at = { stage: "configure" as const, at: "firmware" };
  if (running)
    yield onPage({
      ...at,
      action: `Update to ${running.to} is running`,
      why: "Say how it ended. Leave the maintainer on.",
    });
  if (interrupted)
    yield onPage({
      ...at,
      action: "Save the interrupted update",
      why: "Which version the radio has is not known; nothing else is sure before it is.",
    });
  for (const step of steps)
    yield onPage(
      {
        ...at,
        action: `Update the firmware to ${step.to}`,
        why: `${step.minutes} min with the maintainer on. ${mediumWords(step)}.`,
      },
      step.minutes,
    );
}

/** Ways to set something for which the car is awake: they come when the battery is on for the tests. */
const AWAKE: Readonly<Record<SettingMeans, boolean>> = {
  contacts: false,
  programming: false,
  coding: true,
  gateway: true,
  programmingPlug: true,
  firmware: true,
  menu: true,
};

/** What is set without the car: contacts, data, switches. */
export function* settings(job: Job, view: StripView): Generator<Act> {
  const left = leftToSet(job);
  for (const set of left.filter((s) => !AWAKE[s.means])) yield toSet(job, set, left.length);
  yield* bank(job, "car", view);
}

/** What is written into the awake car, then what wants a lit screen: the menus and the first phone. */
export function* onTheAwakeCar(job: Job): Generator<Act> {
  const { plan, state } = job;
  const plug = plan.documents.kit.programmingPlug;
  const stands = plug && plugState(state.plugEvents, plug);
  if (plug && stands?.inSocket)
    yield onPage({
      stage: "configure",
      at: plug.setting,
      action: stands.phase === "finished" ? "Take the programming plug out" : "Watch the programming plug",
      why: "It is in the diagnostic socket and never stays in the car.",
    });
  const left = leftToSet(job);
  for (const set of left.filter((s) => AWAKE[s.means] && s.means !== "menu")) yield toSet(job, set, left.length);
  if (unproven(state))
    yield onPage({
      stage: "configure",
      at: "units",
      action: "Scan the control units again",
      why: "A word was written since the last scan; new fault codes would show now.",
    });
  for (const set of left.filter((s) => s.means === "menu")) yield toSet(job, set, left.length);
  if (pairingOpen(job)) yield phone(job);
}

/**
 * The switch bank: on the bench before the module is plugged, and again where it stands otherwise than it must.
 *
 * @param where in the car the module has to start anew after a change
 */
export function* bank({ plan, state }: Job, where: "bench" | "car", view?: StripView): Generator<Act> {
  const kit = plan.documents.kit.switchBank;
  const [way] = plan.switches?.conflict ?? [];
  if (way)
    yield onPage({
      stage: "configure",
      at: "conflict",
      action: "Choose what this car is to do without",
      why: "Not everything can be had together; how the switches must stand depends on it.",
    });
  if (!kit || !plan.switches?.settings) return;
  const act = (action: string, why: string): Act => ({
    stage: "configure",
    at: "bank",
    action,
    why,
    does: { kind: "bank" },
    minutes: 2,
  });
  if (!state.switches)
    yield act(
      "Set the switch bank and enter how it stands",
      where === "bench"
        ? "On the bench it is in the hand; the module reads it when it first gets power."
        : "The module reads it at power-up only; a wrong switch looks like a wrong lead.",
    );
  else
    for (const wrong of compareSwitches(plan.switches, kit, state.switches))
      yield act(
        `Set switch ${wrong.number} to ${wrong.should}`,
        wrong.breaks.length ? `As it stands it breaks: ${wrong.breaks.join(", ")}.` : "It should stay as delivered.",
      );
  if (where === "bench") return;
  const cycle = (step: "out" | "in", action: string, why: string): Act => ({
    stage: "configure",
    at: "power-cycle",
    action,
    why,
    does: { kind: "powerCycle", step },
    minutes: 1,
  });
  // With the battery off there is no power to take; it comes up when the battery is connected for the tests.
  if (state.powerOut !== null)
    yield cycle("in", "Plug the module in again", "Its plug was pulled so that it reads the switches.");
  else if (!state.powerCycled && view?.car.battery === "connected" && state.switches)
    yield cycle("out", "Take the power from the module once", "It reads the switches at power-up only.");
}

/** Settings that are not made; what the pairing of a phone brings comes with the pairing. */
function leftToSet({ plan, state }: Job): KitSetting[] {
  return plan.sets.filter((s) => !isSet(plan, state, s) && s.setting !== plan.documents.kit.phone?.setting);
}

function toSet(job: Job, set: KitSetting, left: number): Act {
  const { setting, say, where } = set;
  const word = wordOfSetting(job, setting);
  return {
    stage: "configure",
    at: word ?? setting,
    action: say,
    why: `${where ? `${where}. ` : ""}${left} of ${job.plan.sets.length} settings left. Without it the kit behaves as delivered.`,
    does: word === null && set.means !== "programmingPlug" ? { kind: "setting", set } : { kind: "page" },
    minutes: set.minutes,
  };
}

/** A phone is paired before the tests that need one, and once there is power. */
function phone(job: Job): Act {
  const [begun] = phonesOf(job.plan, job.state) ?? [];
  return onPage({
    stage: "configure",
    at: "phone",
    action: begun?.step ? `${begun.phone}: ${lowerFirst(begun.step.title)}` : "Pair the first phone",
    why: "The order of cable and wireless decides whether it will come by wireless at all.",
  });
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
