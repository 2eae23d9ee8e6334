import type { KitProfile } from "../../../../core/model/profile";
import { radioPort } from "../../plugs";
import { FEMALE, half, MALE, type Pins, port, wire } from "../../vocabulary";
import type { RadioSwapLeaflet } from "./leaflet";

const ADAPTER_PORTS = { car: "loom.radio", radio: "radio.main" };

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
  const pairs: [keyof Pins, boolean][] = [
    ["mic", true],
    ["battery", true],
    ["ground", true],
  ];
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
      ...["1", "2", "3", "4", "5", "6", "7", "8"].map((c) => ({ contacts: [`car.${c}`, `radio.${c}`] })),
      ...pairs.map(([p]) => ({ contacts: [`car.${l.pins[p]}`, `radio.${l.newPins[p]}`] })),
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
