/** A translation as a file: what a module loads. */
import { z } from "zod";
import { TRANSLATION_FORMAT, type TranslationFile } from "../../core/bus/translation/export";
import { COMPARISONS, MISSING, OUTPUT_IDS } from "../../core/bus/translation/translation";
import { pageSchema, signalShape } from "./bus-map";

/** A signal as it was found in a job, without the file. */
export const foundShape = {
  ...signalShape,
  values: z.array(z.tuple([z.int(), z.string().max(60)])).max(256),
  page: pageSchema.nullable(),
};

const signalPath = z
  .string()
  .regex(/^[A-Za-z_]\w*\.[A-Za-z_]\w*$/, "A signal is named Message.Signal.")
  .describe("Message.Signal");
const ms = z.int().min(0).max(60_000);
const comparison = z.object({ signal: signalPath, is: z.enum(COMPARISONS), value: z.number() });

const rule = z.object({
  output: z.enum(OUTPUT_IDS),
  when: z
    .array(z.array(comparison).max(12))
    .max(12)
    .describe("One of the groups must hold, each with all its comparisons of physical values"),
  level: z
    .object({ signal: signalPath, factor: z.number(), offset: z.number() })
    .nullable()
    .describe("The signal that a level follows: output = factor * value + offset"),
  debounceMs: ms.describe("The condition must hold so long before the output switches on"),
  holdMs: ms.describe("So long it stays on after the condition has ended"),
  timeoutMs: ms.min(20).describe("After so long without a message it counts as missing"),
  missing: z.enum(MISSING).describe("What holds while a message is missing"),
  longMs: ms.describe("A key held so long is a long press"),
});
export const rulesSchema = z.array(rule).max(40);

export const translationFileSchema = z.object({
  format: z.literal(TRANSLATION_FORMAT),
  formatVersion: z.literal(1),
  signals: z.array(z.object(foundShape)).describe("Start bit as in a bus description: sawtooth when high byte first"),
  rules: rulesSchema,
}) satisfies z.ZodType<TranslationFile>;
