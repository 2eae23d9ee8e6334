/** A kit: what it brings, opens, plugs and sets, and on what its choices depend. */
import { z } from "zod";
import type { KitProfile } from "../../core/model/profile";
import { head, id, minutes, portRef, text, version } from "./labels";
import { kitStepSchema } from "./strip-plan";
import {
  action,
  assumed,
  functionShape,
  inspection,
  kitCondition,
  linkShape,
  monitorShape,
  needShape,
  normalState,
  partShape,
  settingShape,
  someSituation,
  when,
} from "./system";

const seconds = z.strictObject({ min: z.number().min(0).max(3600), max: z.number().min(0).max(3600) });

export const kitSchema = z.strictObject({
  document: z.literal("kit"),
  ...head,
  maker: text,
  work: text,
  price: z.number().min(0).max(1_000_000),
  fitMinutes: z.strictObject({ low: minutes, likely: minutes, high: minutes }),
  fits: z.array(z.strictObject({ condition: kitCondition, why: text })),
  replaces: z.array(z.strictObject({ part: id, why: text, ifPresent: z.boolean().optional() })),
  parts: z
    .array(z.strictObject({ ...partShape, needs: z.array(z.strictObject({ ...needShape, when })).optional(), when }))
    .min(1),
  steps: z.array(kitStepSchema).max(60).optional(),
  unplug: z.array(z.strictObject({ a: portRef, b: portRef, why: text, when })),
  plug: z.array(z.strictObject({ ...linkShape, say: text, when })),
  reach: z.array(z.strictObject({ place: text, why: text, holds: id.optional(), when })).optional(),
  leads: z
    .array(
      z.strictObject({
        part: id,
        from: text,
        to: text,
        kind: z.enum(["plain", "twisted", "optical"]).optional(),
        service: z.array(text).optional(),
        when,
      }),
    )
    .optional(),
  tiesBack: z
    .array(z.strictObject({ say: text, lengthM: z.number().positive().max(20), when }))
    .max(20)
    .optional(),
  choices: z.array(
    z.strictObject({
      id,
      label: text,
      kind: z.enum(["offer", "method"]),
      default: id,
      when,
      options: z
        .array(
          z.strictObject({
            id,
            label: text,
            why: text,
            assume: someSituation.optional(),
            price: z.number().min(-100_000).max(100_000).optional(),
            minutes: z.number().min(-600).max(600).optional(),
          }),
        )
        .min(1),
    }),
  ),
  functions: z.array(z.strictObject({ ...functionShape, when })),
  actions: z.array(action),
  assumed: z.array(assumed),
  switchBank: z
    .strictObject({ part: id, label: text, switches: z.array(id).min(1).max(10), off: z.string(), on: z.string() })
    .optional(),
  sets: z.array(
    z.strictObject({
      ...settingShape,
      means: z.enum(["coding", "gateway", "menu", "programmingPlug", "firmware", "contacts", "programming"]),
      when,
    }),
  ),
  programmingPlug: z
    .strictObject({
      setting: portRef,
      waitS: seconds,
      writesS: seconds,
      writing: text,
      finished: text,
      refused: text.optional(),
      restS: z.number().min(0).max(600),
    })
    .optional(),
  phone: z
    .strictObject({
      gives: z.enum(["mirroring", "calls"]),
      first: z.union([z.enum(["wireless", "cable"]), z.strictObject({ choice: id })]),
      families: z
        .array(z.strictObject({ id, name: text, addedFrom: z.enum(["module", "phone"]), where: text.optional() }))
        .max(12),
      shownAs: text.optional(),
      pin: z.union([z.literal("compare"), z.string().regex(/^\d{4,8}$/, "4 to 8 digits")]).optional(),
      setting: portRef.optional(),
      asksPriority: z.boolean().optional(),
    })
    .optional(),
  firmwareFloors: z.array(z.strictObject({ part: id, atLeast: version, why: text, when })),
  box: z.array(text),
  needs: z.array(
    z.strictObject({
      kind: z.enum(["part", "material", "tool", "programming", "wire", "drilling", "licence", "person"]),
      say: text,
      why: text.optional(),
      minutes: z.number().min(0).max(600).optional(),
      price: z.number().min(0).max(1_000_000).optional(),
      when,
    }),
  ),
  monitors: z
    .array(z.strictObject({ ...monitorShape, when }))
    .max(100)
    .optional(),
  normal: z
    .array(z.strictObject({ ...normalState.shape, when }))
    .max(60)
    .optional(),
  inspections: z
    .array(z.strictObject({ ...inspection.shape, when }))
    .max(200)
    .optional(),
  card: z.array(z.union([text, z.strictObject({ say: text, when })])),
}) satisfies z.ZodType<KitProfile>;
