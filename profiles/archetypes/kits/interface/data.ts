/** Data of the car in a module: one that comes blank is told by what is loaded, others know the car from the start. */
import { told, toldSettings } from "../../../../core/bus/translation/told";
import type { OutputId } from "../../../../core/bus/translation/translation";
import type { Condition, Route, Setting, Source } from "../../../../core/model/types";
import { all, set } from "../../vocabulary";
import type { InterfaceLeaflet } from "./leaflet";

type Data = Pick<InterfaceLeaflet, "blank" | "harness" | "keyReader" | "mirroring" | "switches" | "frontCamera">;

/** What of the car it takes from the bus. */
function outputs(l: Data): OutputId[] {
  if (!l.harness) return [];
  const front = l.frontCamera && l.switches.manualFront !== undefined;
  return [
    "reverse",
    ...(l.keyReader === "bus" ? (["back"] as const) : []),
    ...(l.mirroring ? (["next", "motionLock"] as const) : []),
    ...(front ? (["volumeDown"] as const) : []),
  ];
}

/** The condition under which the module takes something as given. @param car what the car sends or does for it */
export function heardAs(l: Data, output: OutputId, car: Condition): Condition {
  return l.blank && outputs(l).includes(output) ? told(output, car) : car;
}

export function dataSettings(l: Data): Setting[] {
  if (!l.blank) return [];
  return [
    { id: "data", label: "Data of the car", values: ["blank", "loaded"], initial: "blank" },
    ...toldSettings(outputs(l)),
  ];
}

/** A blank module does nothing of its own; what it only passes through it passes. */
export function onceLoaded<T extends Route | Source>(l: Data, items: readonly T[]): T[] {
  if (!l.blank) return [...items];
  const loaded = set("data", "loaded");
  return items.map((item) =>
    item.id.startsWith("factory") ? item : { ...item, when: item.when ? all(loaded, item.when) : loaded },
  );
}
