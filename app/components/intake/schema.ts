import { z } from "zod";

const text = (most: number) => z.string().trim().max(most).default("");

/** The car sheet as a form sends it, with the entry it makes and the entry it was based on. */
export const carFormSchema = z.object({
  identification: text(40).transform((t) => t.toUpperCase().replace(/[\s-]/g, "")),
  plate: text(20),
  odometerKm: z.coerce
    .number({ error: "Kilometres as a number." })
    .int("Whole kilometres.")
    .min(0, "Not below zero.")
    .max(3_000_000, "More than any car has run.")
    .nullish()
    .transform((v) => v ?? null),
  firmware: text(60),
  faultCodes: text(2000),
  note: text(1000),
  entry: z.uuid(),
  basedOn: z.uuid().optional(),
});
