/** The state that a test asks for from the person, as steps that can be seen; nothing of it is assumed in silence. */
import type { Situation, SituationField, System } from "../model/types";
import type { Test } from "./tests";

export interface StateStep {
  say: string;
  /** False when the car and the phone already stand so after the test before. */
  change: boolean;
}

const SAY: { [F in SituationField]?: (value: Situation[F]) => string } = {
  parkingBrake: (on) => (on ? "Parking brake on" : "Parking brake off"),
  key: (key) =>
    ({
      off: "Key off",
      accessory: "Key to accessory",
      on: "Key on, engine off",
      cranking: "Start the engine and look while it cranks",
      running: "Engine running",
    })[key],
  selector: (s) => (s === "P" ? "Selector in P" : `Foot on the brake, selector in ${s}`),
  lights: (on) => (on ? "Lights on" : "Lights off"),
  paired: (yes) => (yes ? "Phone paired with the car" : "Phone not paired with the car"),
  phone: (p) =>
    ({
      none: "No phone connected",
      wired: "Phone connected by cable",
      wireless: "Phone connected by wireless",
      rememberedWired: "Phone that remembers the cable",
    })[p],
  source: (s) =>
    `Radio plays ${{ radio: "the tuner", lineIn: "the line input", bluetooth: "Bluetooth", usb: "USB" }[s]}`,
  pictureMode: (m) => (m === "phone" ? "Phone picture on the screen" : "Factory picture on the screen"),
  speedKmh: (v) => (v > 0 ? `Rolling at ${v} km/h` : "Standing still"),
  leftReverse: (yes) => (yes ? "Reverse was just left, creeping forward" : "Not just out of reverse"),
};

/**
 * What to set before a test, in the order in which a person does it; then the keys it wants pressed.
 *
 * @param from how the last test left car and phone; null when nothing was tried yet
 */
export function stateSteps({ fn, situationId }: Test, system: System, from: Situation | null): StateStep[] {
  const spec = fn.situations.find((s) => s.id === situationId);
  const start: Situation = { ...system.defaultSituation, ...spec?.set };
  const steps = Object.keys(SAY).flatMap((name): StateStep[] => {
    const field = name as SituationField;
    const asked = spec?.set[field] !== undefined || field === "key";
    const change = start[field] !== (from ?? system.defaultSituation)[field];
    if (!asked && !change) return [];
    return [{ say: say(field, start), change: change || from === null }];
  });
  const actions = (spec?.actions ?? []).flatMap((id) => system.actions.find((a) => a.id === id) ?? []);
  return [...steps, ...actions.map((a) => ({ say: a.say, change: true }))];
}

/** Keys that a test wants held for longer than a press, with how long in seconds. */
export function holdsOf({ fn, situationId }: Test, { actions }: Pick<System, "actions">) {
  const wanted = fn.situations.find((s) => s.id === situationId)?.actions ?? [];
  return actions.filter((a) => wanted.includes(a.id) && a.holdS.min >= 1).map(({ say, holdS }) => ({ say, ...holdS }));
}

function say<F extends SituationField>(field: F, situation: Situation): string {
  return (SAY[field] as (value: Situation[F]) => string)(situation[field]);
}
