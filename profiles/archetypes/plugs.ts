import type { Contact } from "../../core/model/types";
import { RING_WIRES } from "./car/plugs";
import { type Pins, speakerContacts, wire } from "./vocabulary";

/** Contacts of a lead end that stands for the car's radio plug. */
export function radioPort(pins: Pins, ring: boolean, accessory = false): Contact[] {
  return [
    ...(ring ? RING_WIRES() : speakerContacts("wire")),
    wire(pins.high, "can", "bus high"),
    wire(pins.low, "can", "bus low"),
    wire(pins.mic, "microphone"),
    wire(pins.battery, "battery"),
    wire(pins.ground, "ground"),
    wire(pins.reverse, "reverse"),
    ...(accessory ? [wire(pins.accessory, "accessory")] : []),
  ];
}
