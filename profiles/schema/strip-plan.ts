/** The way into the car: steps, fasteners, plugs behind, drawings. */
import { z } from "zod";
import type { KitStep, StripPlan } from "../../core/model/profile";
import { id, portRef, text } from "./labels";
import { lock, situationSchema, when } from "./system";

const threeMinutes = z
  .strictObject({
    low: z.number().positive().max(600),
    likely: z.number().positive().max(600),
    high: z.number().positive().max(600),
  })
  .refine((m) => m.low <= m.likely && m.likely <= m.high, "low, likely and high must not fall");
const reach = z.strictObject({
  parts: z.array(id).optional(),
  ports: z.array(portRef).optional(),
  places: z.array(text).optional(),
});
const side = z.enum(["driver", "passenger", "rear", "tailgate", "engineBay"]);
const percent = z.number().min(0).max(100);
const point = z.tuple([percent, percent]);
const panelDrawing = z.strictObject({
  outline: z.array(point).min(3).max(40),
  aspect: z.number().min(0.1).max(10),
  marks: z
    .array(
      z.strictObject({
        what: z.enum(["start", "clip", "screw", "hook", "plug"]),
        at: point,
        to: point.optional(),
        group: z.int().min(0).optional(),
      }),
    )
    .max(60),
});
const stripStepSchema = z.strictObject({
  id,
  title: text,
  back: z.strictObject({ title: text, detail: text }).optional(),
  detail: text,
  after: z.array(id),
  when,
  minutes: threeMinutes,
  tool: text.optional(),
  side: side.optional(),
  level: z.enum(["upper", "middle", "lower"]).optional(),
  cover: z.array(text).optional(),
  panel: text.optional(),
  fasteners: z
    .array(
      z.strictObject({
        kind: text,
        count: z.int().positive().max(200),
        lengthMm: z.number().positive().max(500).optional(),
        tray: text.max(12),
        place: text.optional(),
        hiddenBehind: text.optional(),
      }),
    )
    .optional(),
  clips: z
    .strictObject({ count: z.int().positive().max(200), start: text, stay: z.enum(["dash", "panel"]).optional() })
    .optional(),
  hooks: text.optional(),
  opens: z
    .array(
      z.strictObject({
        a: portRef,
        b: portRef,
        lock: lock.optional(),
        how: text.optional(),
        airbag: z.boolean().optional(),
      }),
    )
    .optional(),
  reaches: reach.optional(),
  transfer: z.array(text).optional(),
  blanks: z.array(text).optional(),
  requires: z
    .strictObject({
      battery: z.literal("isolated").optional(),
      key: situationSchema.shape.key.optional(),
      selector: z.array(situationSchema.shape.selector).min(1).optional(),
    })
    .optional(),
  airbagZone: z.boolean().optional(),
  lasting: z.enum(["hole", "cut", "joint"]).optional(),
  caution: text.optional(),
  drawing: panelDrawing.optional(),
});
/** A step of a kit, behind a plug of the car. */
export const kitStepSchema = stripStepSchema.extend({
  behind: portRef.optional(),
  frees: portRef.optional(),
}) satisfies z.ZodType<KitStep>;
export const stripPlanSchema = z.strictObject({
  steps: z.array(stripStepSchema),
  free: reach.optional(),
  batteryWaitMin: z.number().min(0).max(120).optional(),
  batterySide: side.optional(),
  selectorRelease: z.enum(["pedal", "tab"]).optional(),
}) satisfies z.ZodType<StripPlan>;
