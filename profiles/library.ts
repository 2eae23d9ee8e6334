/** The shipped library. Every shop starts with a copy; later changes belong to the shop. */
import car from "./library/car-velmora-corrie-19.json";
import kit from "./library/kit-orvanto-om8.json";
import variant from "./library/variant-velmora-corrie-19-r2.json";
import { checkProfile } from "./read";
import { carSchema, kitSchema, type Profile, variantSchema } from "./schema";

/** All shipped profiles, checked as any upload would be. */
export function shippedLibrary(): Profile[] {
  return [car, variant, kit].map(checkProfile);
}

/** Car, variant and kit of the demonstration, typed. */
export function demoDocuments() {
  return { car: carSchema.parse(car), variant: variantSchema.parse(variant), kit: kitSchema.parse(kit) };
}
