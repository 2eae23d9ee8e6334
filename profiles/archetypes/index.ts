/** All archetypes: a new kind of work is one module and one line here. */
import { z } from "zod";
import type { CarProfile, KitProfile, VariantProfile } from "../../core/model/profile";
import { buildCar, carLeaflet } from "./car";
import { buildInterface, interfaceLeaflet } from "./kits/interface";
import {
  buildHandsFree,
  buildNavigation,
  buildPassengerVideo,
  handsFreeLeaflet,
  navigationLeaflet,
  passengerVideoLeaflet,
} from "./kits/modules";
import { buildRadioSwap, radioSwapLeaflet } from "./kits/radio-swap";
import { buildSocket, socketLeaflet } from "./kits/socket";
import { buildVideoInput, videoInputLeaflet } from "./kits/video-input";
import { buildVariant, variantLeaflet } from "./variant";

export const kitLeaflet = z.discriminatedUnion("archetype", [
  interfaceLeaflet,
  socketLeaflet,
  videoInputLeaflet,
  radioSwapLeaflet,
  handsFreeLeaflet,
  navigationLeaflet,
  passengerVideoLeaflet,
]);
export type KitLeaflet = z.infer<typeof kitLeaflet>;

/** Builds the kit document of a leaflet. */
export function buildKit(l: KitLeaflet): KitProfile {
  switch (l.archetype) {
    case "interface":
      return buildInterface(l);
    case "socketUpgrade":
      return buildSocket(l);
    case "videoInput":
      return buildVideoInput(l);
    case "radioSwap":
      return buildRadioSwap(l);
    case "handsFree":
      return buildHandsFree(l);
    case "navigation":
      return buildNavigation(l);
    case "passengerVideo":
      return buildPassengerVideo(l);
  }
}

export const leaflet = z.union([carLeaflet, variantLeaflet, kitLeaflet]);

/**
 * Builds the documents of a set of leaflets, cars first, since variants take their plugs from them.
 *
 * @param given cars that are there already
 */
export function buildLeaflets(
  leaflets: readonly unknown[],
  given: readonly CarProfile[] = [],
): (CarProfile | VariantProfile | KitProfile)[] {
  const read = leaflets.map((l) => leaflet.parse(l));
  const cars = read.flatMap((l) => (l.archetype === "car" ? [buildCar(l)] : []));
  const known = [...given, ...cars];
  return [
    ...cars,
    ...read.flatMap((l): (VariantProfile | KitProfile)[] => {
      if (l.archetype === "car") return [];
      if (l.archetype !== "variant") return [buildKit(l)];
      const car = known.find((c) => c.id === l.car);
      if (!car) throw new RangeError(`variant ${l.id}: there is no car ${l.car}`);
      return [buildVariant(l, car)];
    }),
  ];
}
