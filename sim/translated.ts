/** A stand-in module that holds the translation of a job: it hears the frames of the stand-in car and does as it is told. */
import { candump } from "../core/bus/formats/candump";
import { readAs } from "../core/bus/formats/format";
import { type FoundSignal, messagesOf } from "../core/bus/hunt/found";
import { MOVING_KMH } from "../core/bus/translation/check";
import { replay } from "../core/bus/translation/replay";
import { ALWAYS, AS_THE_CAR, NEVER } from "../core/bus/translation/told";
import type { OutputId, Translation } from "../core/bus/translation/translation";
import type { Situation } from "../core/model/types";
import { type DriverState, recordLog } from "./car";
import { WHEEL_KEYS } from "./on-cue";

const KEYS: Record<Situation["key"], number> = { off: 0, accessory: 1, on: 2, cranking: 3, running: 4 };
const SELECTOR: Record<Situation["selector"], number> = { P: 0, R: 1, N: 2, D: 3 };
/** The module settles before something is pressed. */
const LEAD_S = 1.5;
const SHORT_PRESS_S = 0.4;
/** What each output is on a module that understands the car rightly; null where the model knows nothing of it. */
const RIGHT: Record<OutputId, ((s: Situation) => boolean) | null> = {
  accessory: (s) => s.key === "accessory" || s.key === "on" || s.key === "running",
  reverse: (s) => s.selector === "R" && (s.key === "on" || s.key === "running"),
  lights: (s) => s.lights,
  volumeUp: (s) => s.pressed === "volumeUp",
  volumeDown: (s) => s.pressed === "volumeDown",
  next: (s) => s.pressed === "next",
  back: (s) => s.pressed === "back",
  motionLock: (s) => s.speedKmh > MOVING_KMH,
  phone: null,
  voice: null,
  steering: null,
};

/** Which outputs the translation switches on in a situation of the stand-in car. */
export function outputsIn(
  translation: Translation,
  signals: readonly FoundSignal[],
  situation: Situation,
): ReadonlySet<OutputId> {
  const pressed = WHEEL_KEYS[situation.pressed] ?? 0;
  const heldS = Math.max(SHORT_PRESS_S, situation.heldS);
  const begin: Partial<DriverState> = {
    key: KEYS[situation.key],
    selector: SELECTOR[situation.selector],
    parkingBrake: situation.parkingBrake ? 1 : 0,
    speedKmh: situation.speedKmh,
    lowBeam: situation.lights ? 1 : 0,
    dimming: situation.lights ? 45 : 100,
  };
  const press = [
    { atS: LEAD_S, set: { wheelKey: pressed } },
    { atS: LEAD_S + heldS, set: { wheelKey: 0 } },
  ];
  const text = recordLog({ seed: 1, durationS: LEAD_S + heldS + 1, startS: 0, cues: pressed ? press : [], begin });
  const { frames } = readAs(candump, new TextEncoder().encode(text));
  const traces = replay(frames, translation, { messages: messagesOf(signals, () => "") });
  const middleS = LEAD_S + heldS / 2;
  const on = (t: (typeof traces)[number]) => t.on.some((o) => o.fromS <= middleS && middleS < o.toS);
  return new Set(traces.filter(on).map((t) => t.output));
}

/**
 * How the settings of a module stand in a situation of the stand-in car, by `part.setting`, where its translation makes
 * something else of the messages than the car means.
 *
 * @param modules outputs that modules can be told, with the setting for each
 */
export function toldIn(
  modules: readonly { output: OutputId; ref: string }[],
  translation: Translation,
  signals: readonly FoundSignal[],
  situation: Situation,
): Record<string, string> {
  if (modules.length === 0) return {};
  const on = outputsIn(translation, signals, situation);
  return Object.fromEntries(
    modules.flatMap(({ output, ref }) => {
      const right = RIGHT[output]?.(situation);
      if (right === undefined) return [];
      return [[ref, !on.has(output) ? NEVER : right ? AS_THE_CAR : ALWAYS]];
    }),
  );
}
