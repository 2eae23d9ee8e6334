import { type BusMap, mappedSignals } from "../bus/bus-map";
import { carMessages } from "../bus/car-messages";
import type { CarProfile } from "../model/profile";
import { DEFAULT_SITUATION } from "../model/types";
import type { Gap } from "./gap";

/** Messages that the car sends and of which the map does not say how they read. */
export function busMapCoverage(map: BusMap, { parts }: Pick<CarProfile, "parts">): Gap[] {
  const system = { parts, links: [], functions: [], actions: [], assumed: [], defaultSituation: DEFAULT_SITUATION };
  return carMessages(system, mappedSignals(map), [])
    .filter((m) => m.rule === null)
    .map((m) => ({
      kind: "setting",
      say: `${m.name}: the car sends it, and nothing here says how it reads`,
      remedy: "Find it on cue in a job on this car, or name the values of its signal.",
      field: "signals",
    }));
}
