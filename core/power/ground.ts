import { RunError, shortestRun } from "../lengths/run";
import type { CarProfile } from "../model/profile";

/** The nearest place with bare metal, and how far it is; null when the car does not say where metal is. */
export function groundPoint(car: CarProfile, from: string): { place: string; lengthM: number } | null {
  let best: { place: string; lengthM: number } | null = null;
  for (const { name, surface, hot } of car.places ?? []) {
    if (surface !== "metal" || hot) continue;
    try {
      const lengthM = name === from ? 0 : shortestRun(car.runs ?? [], { from, to: name }).lengthM;
      if (!best || lengthM < best.lengthM) best = { place: name, lengthM };
    } catch (error) {
      if (!(error instanceof RunError)) throw error;
    }
  }
  return best;
}
