/** Drawings of documents: polygons and places in millimetres. */
import { z } from "zod";
import type { BackDrawing, DashDrawing, PlanDrawing } from "../../core/drawing/drawing";
import { id, text } from "./labels";

const mm = z.number().min(0).max(20_000);
const place = z.tuple([mm, mm]);
const outline = z.array(place).min(3, "an outline has at least three corners").max(80);
const size = z.number().positive().max(20_000);

export const dashShapes = z
  .array(
    z.strictObject({
      id,
      what: z.enum(["body", "panel", "screen", "radio", "vent", "key", "knob", "slot", "cluster", "wheel", "airbag"]),
      name: text.optional(),
      panel: text.optional(),
      part: id.optional(),
      outline,
    }),
  )
  .max(200);

export const dashSchema = z.strictObject({
  width: size,
  height: size,
  shapes: dashShapes,
}) satisfies z.ZodType<DashDrawing>;

export const planSchema = z.strictObject({
  width: size,
  height: size,
  body: outline,
  zones: z.array(z.strictObject({ what: z.enum(["airbag", "hot", "wet"]), name: text, outline })).max(40),
  places: z.array(z.strictObject({ name: text, at: place })).max(100),
  speakers: z
    .array(z.strictObject({ contact: text, at: place }))
    .max(40)
    .optional(),
}) satisfies z.ZodType<PlanDrawing>;

export const backSchema = z.strictObject({
  width: size,
  height: size,
  sockets: z.array(z.strictObject({ port: id, at: place })).max(60),
}) satisfies z.ZodType<BackDrawing>;
