/**
 * Zod schemas of the documents. They guard every door through which a document enters: library files, uploads,
 * rows of the database. Types live in `core/`; each schema is checked against its type.
 */
import { z } from "zod";
import type { CarProfile, KitProfile, VariantProfile } from "../../core/model/profile";
import { carSchema, firmwareSchema, questionSchema, variantSchema } from "./car";
import { kitSchema } from "./kit";
import { situationSchema } from "./system";

export { carSchema, firmwareSchema, kitSchema, questionSchema, situationSchema, variantSchema };

export const profileSchema = z.discriminatedUnion("document", [carSchema, variantSchema, kitSchema]);
export type Profile = CarProfile | VariantProfile | KitProfile;
export type ProfileKind = Profile["document"];
