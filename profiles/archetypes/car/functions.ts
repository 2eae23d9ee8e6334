import type { FunctionSpec } from "../../../core/model/types";
import type { CarLeaflet } from "./leaflet";
import { ZONES } from "./plugs";

export function functions(l: CarLeaflet): FunctionSpec[] {
  const list: FunctionSpec[] = [
    {
      id: "hazard",
      name: "Hazard switch",
      say: "Press the hazard switch; all indicators flash.",
      who: "law",
      observe: [{ at: "bodyComputer.flashers.1", where: {} }],
      situations: [{ id: "key-off", label: "key off", set: { key: "off", pressed: "hazard" } }],
      minutes: 0.5,
    },
  ];
  for (const zone of ZONES.slice(0, l.climateZones))
    list.push({
      id: zone.press === "warmerLeft" ? "climateLeft" : "climateRight",
      name: `Climate, ${zone.label}`,
      say: `Ask for more warmth on the ${zone.label}; warm air comes there.`,
      who: "customer",
      observe: [{ at: `climateUnit.flaps.${zone.id}`, where: {} }],
      situations: [{ id: "on", label: "ignition on", set: { pressed: zone.press } }],
      minutes: 1,
    });
  return list;
}
