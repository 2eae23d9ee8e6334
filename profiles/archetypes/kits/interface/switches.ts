/** The switch bank of an interface. */
import type { Condition, Setting } from "../../../../core/model/types";
import { set } from "../../vocabulary";
import type { InterfaceLeaflet } from "./leaflet";

/** The two-valued settings of the switch bank; places without a role are “not used”. */
export function bank(l: InterfaceLeaflet): Setting[] {
  const roles: Record<number, string> = {
    [l.switches.format[0]]: "Screen format, first",
    [l.switches.format[1]]: "Screen format, second",
  };
  if (l.switches.front) roles[l.switches.front] = "Front camera after reverse";
  if (l.switches.manualFront) roles[l.switches.manualFront] = "Front camera by hand; off: after reverse";
  if (l.switches.rear) roles[l.switches.rear] = "Rear camera added by the shop";
  if (l.switches.touch) roles[l.switches.touch] = "Touch reader";
  if (l.switches.olderKeys) roles[l.switches.olderKeys] = "Older wheel key messages";
  return Array.from({ length: l.switches.count }, (_, i) => ({
    id: `sw${i + 1}`,
    label: roles[i + 1] ?? "Not used, leave off",
    values: ["off", "on"],
    initial: "off",
  }));
}

/** Condition of a role's switch; a role without a switch is always given. */
export function role(number: number | undefined, value: "on" | "off"): Condition[] {
  return number === undefined ? [] : [set(`sw${number}`, value)];
}

export function formatSwitches(l: InterfaceLeaflet, index: number): Condition[] {
  const [first, second] = l.switches.format;
  return [set(`sw${first}`, index & 1 ? "on" : "off"), set(`sw${second}`, index & 2 ? "on" : "off")];
}
