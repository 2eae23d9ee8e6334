/**
 * The shipped library. Every shop starts with a copy; later changes belong to the shop. Most of it are leaflets from
 * which the archetypes build the documents; the demonstration's own car, variant and kit are written out in full.
 */
import { buildLeaflets, type Leaflet, leaflet } from "./archetypes";
import busMaps from "./library/bus-maps.json";
import car from "./library/car-velmora-corrie-19.json";
import codingMaps from "./library/coding-maps.json";
import corrie from "./library/corrie.json";
import dunlin from "./library/dunlin.json";
import fjell from "./library/fjell.json";
import halden from "./library/halden.json";
import heron from "./library/heron.json";
import kit from "./library/kit-orvanto-om8.json";
import interfaces from "./library/kits-interfaces.json";
import modules from "./library/kits-modules.json";
import radios from "./library/kits-radios.json";
import marrow from "./library/marrow.json";
import osk from "./library/osk.json";
import tarn from "./library/tarn.json";
import vale from "./library/vale.json";
import variant from "./library/variant-velmora-corrie-19-r2.json";
import { checkProfile } from "./read";
import { carSchema, kitSchema, type Profile, variantSchema } from "./schema";

const LEAFLETS: unknown[] = [
  corrie,
  halden,
  marrow,
  tarn,
  osk,
  fjell,
  dunlin,
  vale,
  heron,
  interfaces,
  radios,
  modules,
].flat();

/** The shipped leaflets, read: starting points for new documents. */
export function shippedLeaflets(): Leaflet[] {
  return LEAFLETS.map((l) => leaflet.parse(l));
}

let library: readonly Profile[] | null = null;

/** All shipped profiles, checked as any upload would be; built once, and never changed. */
export function shippedLibrary(): Profile[] {
  library ??= [car, variant, kit, ...buildLeaflets(LEAFLETS, [carSchema.parse(car)]), ...codingMaps, ...busMaps].map(
    checkProfile,
  );
  return [...library];
}

/** Car, variant and kit of the demonstration, typed. */
export function demoDocuments() {
  return { car: carSchema.parse(car), variant: variantSchema.parse(variant), kit: kitSchema.parse(kit) };
}
