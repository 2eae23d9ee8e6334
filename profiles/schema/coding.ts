/** A coding map: control units, their coded words, what the bits mean. */
import { z } from "zod";
import { CHECKSUMS, type CodingMap, LOCKED_KINDS } from "../../core/coding/map";
import { head, id, text } from "./labels";
import { kitCondition } from "./system";

const fieldRef = z.string().regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read unit.word.field");
const settingRef = z.string().regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read part.setting");
const raw = z.int().min(0).max(0xffff_ffff);
const raws = z.array(raw).min(1).max(64);
const canId = z.int().min(0).max(0x1fff_ffff);
const byte = z.int().min(0).max(255);

const field = z.strictObject({
  id,
  label: text,
  byte: z.int().min(0).max(511),
  bit: z.int().min(0).max(7),
  width: z.int().min(1).max(32),
  order: z.enum(["little", "big"]).optional(),
  about: text,
  values: z
    .array(z.strictObject({ raw, label: text, setting: text.optional() }))
    .min(1)
    .max(64)
    .optional(),
  number: z
    .strictObject({
      factor: z.number(),
      offset: z.number(),
      unit: z.string().max(20),
      min: z.number().optional(),
      max: z.number().optional(),
    })
    .optional(),
  setting: settingRef.optional(),
  needs: z
    .array(z.strictObject({ with: raws, field: fieldRef, is: raws, say: text }))
    .max(20)
    .optional(),
  group: id.optional(),
  facts: z
    .array(z.strictObject({ when: kitCondition, is: raws, because: text }))
    .max(20)
    .optional(),
});

const word = z.strictObject({
  id,
  name: text,
  identifier: z.int().min(0).max(0xffff),
  length: z.int().min(1).max(512),
  checksum: z.strictObject({ kind: z.enum(CHECKSUMS), byte: z.int().min(0).max(511) }).optional(),
  fields: z.array(field).max(400),
});

export const codingSchema = z.strictObject({
  document: z.literal("coding"),
  ...head,
  car: id,
  units: z
    .array(
      z.strictObject({
        id,
        name: text,
        part: id.optional(),
        request: canId,
        answer: canId,
        extended: z.boolean().optional(),
        node: z.strictObject({ unit: byte, tester: byte }).optional(),
        locked: z.enum(LOCKED_KINDS).optional(),
        listed: z.strictObject({ field: fieldRef, is: raws }).optional(),
        access: z.int().min(1).max(0x41).optional(),
        words: z.array(word).max(40),
      }),
    )
    .min(1, "it needs at least one control unit")
    .max(80),
}) satisfies z.ZodType<CodingMap>;
