import { nearestPlace } from "../lengths/run";
import type { CarProfile } from "../model/profile";

/** The nearest place with bare metal, and how far it is; null when the car does not say where metal is. */
export function groundPoint(car: CarProfile, from: string): { place: string; lengthM: number } | null {
  return nearestPlace(car, from, ({ surface, hot }) => surface === "metal" && !hot);
}
