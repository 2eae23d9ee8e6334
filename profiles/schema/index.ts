/**
 * Zod schemas of the documents. They guard every door through which a document enters: library files, uploads,
 * rows of the database. Types live in `core/`; each schema is checked against its type.
 */
import { z } from "zod";
import type { BusMap } from "../../core/bus/bus-map";
import type { CodingMap } from "../../core/coding/map";
import type { CarProfile, KitProfile, VariantProfile } from "../../core/model/profile";
import { busMapSchema } from "./bus-map";
import { carSchema, firmwareSchema, questionSchema, variantSchema } from "./car";
import { codingSchema } from "./coding";
import { kitSchema } from "./kit";
import { situationSchema } from "./system";

export {
  busMapSchema,
  carSchema,
  codingSchema,
  firmwareSchema,
  kitSchema,
  questionSchema,
  situationSchema,
  variantSchema,
};

export const profileSchema = z.discriminatedUnion("document", [
  carSchema,
  variantSchema,
  kitSchema,
  codingSchema,
  busMapSchema,
]);
/** Documents of which a system is composed. */
export type SystemProfile = CarProfile | VariantProfile | KitProfile;
export type Profile = SystemProfile | CodingMap | BusMap;
export type ProfileKind = Profile["document"];
export const PROFILE_KINDS = ["car", "variant", "kit", "coding", "busMap"] as const satisfies readonly ProfileKind[];
