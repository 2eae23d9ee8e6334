/** A bus map: signals of a car with where they lie and where they are known from. */
import { z } from "zod";
import type { BusMap } from "../../core/bus/bus-map";
import { head, id, text } from "./labels";

/** Names of messages and signals, as a bus description can hold them. */
const signalName = z
  .string()
  .regex(/^[A-Za-z_]\w*$/, "begins with a letter and has letters, digits and _ only")
  .max(32);

/** Where a signal lies and how its raw value reads. */
export const signalShape = {
  signal: signalName,
  message: signalName,
  id: z.int().min(0).max(0x1fff_ffff),
  extended: z.boolean(),
  bytes: z.int().min(1).max(64),
  startBit: z.int().min(0).max(511),
  length: z.int().min(1).max(64),
  littleEndian: z.boolean(),
  signed: z.boolean(),
  factor: z.number().refine((f) => f !== 0, "The factor is not zero."),
  offset: z.number(),
  unit: z.string().max(12),
};
export const pageSchema = z.strictObject({
  startBit: z.int().min(0).max(511),
  length: z.int().min(1).max(8),
  value: z.int().min(0).max(255),
});

export const busMapSchema = z.strictObject({
  document: z.literal("busMap"),
  ...head,
  car: id,
  signals: z
    .array(
      z.strictObject({
        ...signalShape,
        values: z.array(z.strictObject({ raw: z.int(), name: z.string().max(60) })).max(256),
        page: pageSchema.optional(),
        origin: text,
      }),
    )
    .min(1, "it needs at least one signal")
    .max(2000),
}) satisfies z.ZodType<BusMap>;
