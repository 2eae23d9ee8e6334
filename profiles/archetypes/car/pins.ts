import type { CarProfile } from "../../../core/model/profile";
import { type Pins, USUAL_PINS } from "../vocabulary";

/** Pins of the radio plug of a car document, read back from the labels and kinds of its contacts. */
export function pinsOf(car: CarProfile): Pins {
  const contacts = car.parts.find((p) => p.id === "loom")?.ports.find((p) => p.id === "radio")?.contacts ?? [];
  const kind = (k: string, n = 0) => contacts.filter((c) => c.kind === k)[n]?.id;
  return {
    high: kind("can") ?? USUAL_PINS.high,
    low: kind("can", 1) ?? USUAL_PINS.low,
    mic: kind("microphone") ?? USUAL_PINS.mic,
    battery: kind("battery") ?? USUAL_PINS.battery,
    ground: kind("ground") ?? USUAL_PINS.ground,
    accessory: kind("accessory") ?? USUAL_PINS.accessory,
    reverse: kind("reverse") ?? USUAL_PINS.reverse,
  };
}
