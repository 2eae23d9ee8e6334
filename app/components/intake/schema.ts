import { z } from "zod";

const text = (max: number) => z.string().trim().max(max).default("");

const sheetSchema = z.object({
  identification: text(40).transform((t) => t.toUpperCase().replace(/[\s-]/g, "")),
  plate: text(20),
  odometer: z.coerce
    .number({ error: "A number, as the dash shows it." })
    .int("Whole kilometres or miles.")
    .min(0, "Not below zero.")
    .max(3_000_000, "More than any car has run.")
    .nullish(),
  odometerUnit: z.enum(["km", "mi"]).default("km"),
  firmware: text(60),
  faultCodes: text(2000),
  note: text(1000),
});

const openedSchema = z.object({
  identification: z.string(),
  plate: z.string(),
  odometer: z.string(),
  firmware: z.string(),
  faultCodes: z.string(),
  note: z.string(),
});

/** The car sheet as a form sends it, with the entry it makes and the sheet that the person saw. */
export const carFormSchema = sheetSchema
  .extend({
    entry: z.uuid(),
    opened: z.string().transform((json, ctx) => {
      try {
        return openedSchema.parse(JSON.parse(json));
      } catch {
        ctx.addIssue({ code: "custom", message: "Load the page again." });
        return z.NEVER;
      }
    }),
  })
  .transform(({ odometer, odometerUnit, ...rest }) => ({
    ...rest,
    odometer: odometer === null || odometer === undefined ? "" : `${odometer} ${odometerUnit}`,
  }));
