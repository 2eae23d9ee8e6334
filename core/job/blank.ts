/** Stand-ins for documents that a job does not have yet: everything about the car alone works with them. */
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";

const NOT_YET = "not-yet";

/** A car whose radio is not identified. */
export function noVariant(car: CarProfile): VariantProfile {
  return {
    document: "variant",
    id: NOT_YET,
    version: 1,
    title: "radio not identified yet",
    sourceNote: "",
    car: car.id,
    identifyingFeatures: [],
    parts: [],
    links: [],
    functions: [],
  };
}

/** A job without a kit: the fitted car is the stock car. */
export function noKit(): KitProfile {
  return {
    document: "kit",
    id: NOT_YET,
    version: 1,
    title: "no kit chosen yet",
    sourceNote: "",
    maker: "",
    work: "",
    price: 0,
    fitMinutes: { low: 0, likely: 0, high: 0 },
    fits: [],
    replaces: [],
    parts: [],
    unplug: [],
    plug: [],
    choices: [],
    functions: [],
    actions: [],
    assumed: [],
    sets: [],
    firmwareFloors: [],
    box: [],
    needs: [],
    card: [],
  };
}

/** True for a document that only stands in for one that is still to be found. */
export function isBlank(document: { id: string }): boolean {
  return document.id === NOT_YET;
}
