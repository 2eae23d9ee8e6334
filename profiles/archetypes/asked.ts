/** Which answers of a leaflet follow from others: a form does not ask for what would change nothing. */
import type { CarLeaflet } from "./car/leaflet";
import type { Leaflet } from "./index";
import { buildOf, type InterfaceLeaflet } from "./kits/interface/leaflet";
import type { RadioSwapLeaflet } from "./kits/radio-swap/leaflet";

/** By field: when it is asked. A field that is not named always is. */
type Asked<L> = { readonly [field in keyof L]?: (l: L) => boolean };

const CAR: Asked<CarLeaflet> = {
  cameraFigures: (l) => l.rearCamera,
  tweeters: (l) => l.sound === "radio",
};

const INTERFACE: Asked<InterfaceLeaflet> = {
  opening: (l) => buildOf(l).unit !== null,
  pins: (l) => l.harness,
  ring: (l) => l.harness,
  splitter: (l) => l.harness,
  takesKeys: (l) => l.keyReader === "key board",
  phones: (l) => l.mirroring,
  deletesPairing: (l) => l.mirroring && l.soundPaths.includes("line"),
  cameraFigures: (l) => l.frontCamera || l.rearCamera,
  cameraHandle: (l) => l.rearCamera,
  handleLead: (l) => l.rearCamera && l.cameraHandle,
};

const RADIO_SWAP: Asked<RadioSwapLeaflet> = {
  newPlug: (l) => l.from !== "higher level",
  newPins: (l) => l.newPlug !== undefined,
  transfers: (l) => l.climateZones > 0,
  blanks: (l) => l.climateZones > 0,
  programmingPlug: (l) => l.features.coded === "by programming plug",
};

/**
 * Fields of a leaflet that are not asked, as it is answered so far.
 *
 * @param leaflet perhaps half answered: what cannot be told yet is asked
 */
export function notAsked(leaflet: { archetype?: unknown }): string[] {
  const rules = { car: CAR, interface: INTERFACE, radioSwap: RADIO_SWAP }[leaflet.archetype as string] ?? {};
  return Object.entries(rules).flatMap(([field, asked]) => {
    try {
      return (asked as (l: Leaflet) => boolean)(leaflet as Leaflet) ? [] : [field];
    } catch {
      return [];
    }
  });
}
