/** A car as built, and one of the radios with which it was sold. */
import { z } from "zod";
import type { CarProfile, VariantProfile } from "../../core/model/profile";
import { FUSE_COLOURS, FUSE_FAMILIES } from "../../core/power/fuse";
import { dashSchema, dashShapes, planSchema } from "./drawings";
import { figuresSchema } from "./figures";
import { head, id, portRef, text, version } from "./labels";
import { stripPlanSchema } from "./strip-plan";
import {
  assumed,
  functionSpec,
  inspection,
  link,
  monitor,
  normalState,
  part,
  settingShape,
  situationSchema,
  someSituation,
} from "./system";

/** A question of the variant finder. */
export const questionSchema = z.strictObject({
  id,
  ask: text,
  where: text,
  answers: z
    .array(z.strictObject({ id, label: text }))
    .min(2)
    .max(20),
  effortS: z.number().positive().max(3600),
  radioOut: z.boolean().optional(),
});

/** Allowed updates of a radio and how it writes its version. */
export const firmwareSchema = z.strictObject({
  updates: z.array(
    z.strictObject({
      from: version,
      to: version,
      minutes: z.number().positive().max(600),
      how: text,
      storageMb: z.number().positive().max(1_000_000).optional(),
      sideEffects: z.array(text),
    }),
  ),
  written: z.array(text).optional(),
  effects: z
    .array(
      z.strictObject({
        from: version,
        setting: portRef,
        value: text,
        say: text,
        cure: z.strictObject(settingShape).optional(),
      }),
    )
    .max(20)
    .optional(),
});

export const carSchema = z.strictObject({
  document: z.literal("car"),
  ...head,
  maker: text,
  model: text,
  years: z.strictObject({ from: z.int().min(1980).max(2100), to: z.int().min(1980).max(2100) }),
  driveSide: z.enum(["left", "right"]),
  gearbox: z.enum(["automatic", "manual"]),
  countries: z
    .array(z.string().regex(/^[A-Z]{2}$/, "two capital letters, as in NO"))
    .max(60)
    .optional(),
  questions: z.array(questionSchema).max(60).optional(),
  identification: z.array(
    z.strictObject({ pattern: z.string().regex(/^[A-HJ-NPR-Z0-9?]{17}$/, "17 characters, ? for any"), says: text }),
  ),
  parts: z.array(part).min(1),
  links: z.array(link),
  functions: z.array(functionSpec),
  assumed: z.array(assumed),
  defaultSituation: someSituation,
  power: z
    .strictObject({ batteryAh: z.number().positive().max(400), ignitionA: z.number().positive().max(200) })
    .optional(),
  fusePanel: z
    .array(
      z.strictObject({
        id,
        circuit: text,
        ratingA: z
          .number()
          .refine((a) => FUSE_COLOURS.has(a), `a blade fuse has one of ${[...FUSE_COLOURS.keys()].join(", ")} A`),
        family: z.enum(FUSE_FAMILIES),
        live: z.array(situationSchema.shape.key),
        used: z.boolean(),
        critical: z.boolean().optional(),
        at: z.tuple([z.int().min(1).max(60), z.int().min(1).max(60)]).optional(),
      }),
    )
    .max(200)
    .optional(),
  runs: z
    .array(
      z.strictObject({
        id,
        from: text,
        to: text,
        lengthM: z.number().positive().max(20),
        zone: z.enum(["airbag", "hot", "sharp", "moving", "wet"]).optional(),
        grommet: z.boolean().optional(),
        bendRadiusMm: z.number().positive().max(1000).optional(),
        say: text.optional(),
      }),
    )
    .max(300)
    .optional(),
  places: z
    .array(
      z.strictObject({
        name: text,
        surface: z.enum(["plastic", "metal"]),
        airy: z.boolean(),
        byHand: z.boolean(),
        hot: z.boolean().optional(),
      }),
    )
    .max(100)
    .optional(),
  figures: figuresSchema.optional(),
  monitors: z.array(monitor).max(100).optional(),
  normal: z.array(normalState).max(60).optional(),
  inspections: z.array(inspection).max(200).optional(),
  drawings: z.strictObject({ dash: dashSchema.optional(), plan: planSchema.optional() }).optional(),
  stripPlan: stripPlanSchema,
}) satisfies z.ZodType<CarProfile>;

export const variantSchema = z.strictObject({
  document: z.literal("variant"),
  ...head,
  car: id,
  answers: z.record(id, z.array(id).min(1)).optional(),
  share: z.number().positive().max(1_000_000).optional(),
  firmware: firmwareSchema.optional(),
  identifyingFeatures: z.array(text),
  dash: dashShapes.optional(),
  parts: z.array(part).min(1),
  links: z.array(link),
  functions: z.array(functionSpec),
  monitors: z.array(monitor).max(100).optional(),
  normal: z.array(normalState).max(60).optional(),
  inspections: z.array(inspection).max(200).optional(),
}) satisfies z.ZodType<VariantProfile>;
