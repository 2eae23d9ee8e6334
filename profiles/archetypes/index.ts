/** All archetypes: a new kind of work is one module and one line here. */
import { z } from "zod";
import { usualBack } from "../../core/drawing/back";
import type { CarProfile, KitProfile, VariantProfile } from "../../core/model/profile";
import { ProfileError } from "../checks";
import { buildCar } from "./car";
import { carLeaflet } from "./car/leaflet";
import { buildHandsFree, handsFreeLeaflet } from "./kits/hands-free";
import { buildInterface } from "./kits/interface";
import { buildOf, interfaceLeaflet } from "./kits/interface/leaflet";
import { buildNavigation, navigationLeaflet } from "./kits/navigation";
import { buildPassengerVideo, passengerVideoLeaflet } from "./kits/passenger-video";
import { buildRadioSwap } from "./kits/radio-swap";
import { radioSwapLeaflet } from "./kits/radio-swap/leaflet";
import { usualLeads, usualReach } from "./kits/reach";
import { buildSocket, socketLeaflet } from "./kits/socket";
import { buildVideoInput, videoInputLeaflet } from "./kits/video-input";
import { buildVariant, variantLeaflet } from "./variant";

const kitLeaflet = z.discriminatedUnion("archetype", [
  interfaceLeaflet,
  socketLeaflet,
  videoInputLeaflet,
  radioSwapLeaflet,
  handsFreeLeaflet,
  navigationLeaflet,
  passengerVideoLeaflet,
]);
type KitLeaflet = z.infer<typeof kitLeaflet>;

/** Builds the kit document of a leaflet, with the places it asks to be reached. */
function buildKit(l: KitLeaflet): KitProfile {
  const kit = kitOf(l);
  const inside = l.archetype === "interface" ? buildOf(l).unit : null;
  const reach = [...(kit.reach ?? []), ...usualReach(kit, inside !== null)];
  const leads = [...(kit.leads ?? []), ...usualLeads(kit, inside)];
  return { ...kit, ...(reach.length > 0 ? { reach } : {}), ...(leads.length > 0 ? { leads } : {}) };
}

function kitOf(l: KitLeaflet): KitProfile {
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
export type Leaflet = z.infer<typeof leaflet>;

/** Schema of the leaflet of an archetype; undefined for an unknown name. */
export function leafletSchema(archetype: string): z.ZodType<Leaflet> | undefined {
  const all = [carLeaflet, variantLeaflet, ...kitLeaflet.options];
  return all.find((s) => s.shape.archetype.value === archetype) as z.ZodType<Leaflet> | undefined;
}

/** Builds the document of one leaflet; a variant needs the car it belongs to. */
export function buildLeaflet(l: Leaflet, cars: readonly CarProfile[]): CarProfile | VariantProfile | KitProfile {
  return withBacks(documentOf(l, cars));
}

/** Every device with sockets has its usual back. */
function withBacks<T extends CarProfile | VariantProfile | KitProfile>(profile: T): T {
  const parts = profile.parts.map((p) => {
    const back = p.back ?? (p.type === "device" ? usualBack(p) : null);
    return back ? { ...p, back } : p;
  });
  return { ...profile, parts };
}

function documentOf(l: Leaflet, cars: readonly CarProfile[]): CarProfile | VariantProfile | KitProfile {
  if (l.archetype === "car") return buildCar(l);
  if (l.archetype !== "variant") return buildKit(l);
  const car = cars.find((c) => c.id === l.car);
  if (!car)
    throw new ProfileError("car", `there is no car “${l.car}” in the library.`, "Name a car by its identifier.");
  return buildVariant(l, car);
}

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
  const cars = read.flatMap((l) => (l.archetype === "car" ? [withBacks(buildCar(l))] : []));
  const known = [...given, ...cars];
  return [...cars, ...read.filter((l) => l.archetype !== "car").map((l) => buildLeaflet(l, known))];
}
