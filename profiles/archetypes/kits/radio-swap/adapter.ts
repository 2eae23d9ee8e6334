import type { KitProfile } from "../../../../core/model/profile";
import { radioPort } from "../../plugs";
import { FEMALE, half, MALE, type Pins, port, SPEAKER_BLOCK, wire } from "../../vocabulary";
import type { RadioSwapLeaflet } from "./leaflet";

const ADAPTER_PORTS = { car: "loom.radio", radio: "radio.main" };

/** Every contact of the car's plug straight through to the plug of the bigger module, by function, the bus too. */
export function addPassThrough(l: RadioSwapLeaflet, kit: KitProfile): void {
  kit.parts.push({
    id: "adapter",
    name: "Pass-through harness, car's plug to the new module",
    type: "lead",
    lengthM: 0.3,
    twisted: true,
    reachMinutes: 1,
    ports: [
      port("car", "car end", half(l.radioPlug, MALE), radioPort(l.pins, false, false)),
      port("radio", "module end", half(l.newPlug ?? l.radioPlug, FEMALE), radioPort(l.newPins, false, false)),
    ],
    joins: [...SPEAKERS, ...byFunction(l, "mic", "battery", "ground", "high", "low")],
  });
  kit.plug.push(
    { id: "k-adapter-car", a: "adapter.car", b: ADAPTER_PORTS.car, say: "Pass-through harness into the car's plug" },
    {
      id: "k-adapter-radio",
      a: "adapter.radio",
      b: ADAPTER_PORTS.radio,
      say: "Pass-through harness into the new module",
    },
  );
}

/** The loudspeaker block has the same contacts in both plugs. */
const SPEAKERS = SPEAKER_BLOCK.map(([id]) => ({ contacts: [`car.${id}`, `radio.${id}`] }));

function byFunction(l: RadioSwapLeaflet, ...pins: (keyof Pins)[]) {
  return pins.map((p) => ({ contacts: [`car.${l.pins[p]}`, `radio.${l.newPins[p]}`] }));
}

/** Lead from the older plug to the newer one: supply, loudspeakers and microphone straight through by function. */
export function addAdapter(l: RadioSwapLeaflet, kit: KitProfile, aftermarket: boolean): void {
  const car = port(
    "car",
    "car end",
    half(l.radioPlug, MALE),
    radioPort(l.pins, false, false).filter((c) => c.kind !== "can"),
  );
  const radio = port("radio", "radio end", half(l.newPlug ?? l.radioPlug, FEMALE), [
    ...radioPort(l.newPins, false, aftermarket).filter((c) => !aftermarket || c.kind !== "can"),
  ]);
  kit.parts.push({
    id: "adapter",
    name: "Adapter lead, old plug to new plug",
    type: "lead",
    lengthM: 0.25,
    reachMinutes: 1,
    ports: [
      car,
      radio,
      port(
        "bus",
        aftermarket ? "accessory lead" : "bus pair",
        half(aftermarket ? ACCESSORY : { family: "Bus pair 2", ways: 2 }, FEMALE),
        [...(aftermarket ? [wire("1", "accessory")] : [wire("H", "can", "bus high"), wire("L", "can", "bus low")])],
      ),
    ],
    joins: [
      ...SPEAKERS,
      ...byFunction(l, "mic", "battery", "ground"),
      ...(aftermarket
        ? [{ contacts: ["bus.1", `radio.${l.newPins.accessory}`] }]
        : [{ contacts: ["bus.H", `radio.${l.newPins.high}`] }, { contacts: ["bus.L", `radio.${l.newPins.low}`] }]),
    ],
  });
  kit.plug.push(
    { id: "k-adapter-car", a: "adapter.car", b: ADAPTER_PORTS.car, say: "Adapter lead into the car's old plug" },
    { id: "k-adapter-radio", a: "adapter.radio", b: ADAPTER_PORTS.radio, say: "Adapter lead into the new radio" },
  );
}

export const ACCESSORY = { family: "Accessory 1", ways: 1, colour: "red" };
