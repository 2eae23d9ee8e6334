/** Zod schemas of job entries and of the exported job file. */
import { z } from "zod";
import type { EntryBody } from "../core/job/entry";
import { TEST_STATES } from "../core/power/feed";
import { READINGS } from "../core/power/readings";
import { carSchema, kitSchema, variantSchema } from "./schema";

const key = z.string().min(1).max(120);
const note = z.string().trim().max(1000);
const uuid = z.uuid();
const reason = (message: string) => z.string().trim().min(3, message).max(500);
const stepId = z.string().regex(/^[A-Za-z0-9_+-]{1,60}$/);

const carSheetSchema = z.object({
  identification: z.string().trim().max(40),
  plate: z.string().trim().max(20),
  odometerKm: z.number().int().min(0).max(3_000_000).nullable(),
  firmware: z.string().trim().max(60),
  faultCodes: z.string().trim().max(2000),
  note,
});

const pin = z.object({ slug: key, version: z.int().positive() });
const body = <K extends string, D extends z.ZodType>(kind: K, data: D) => z.object({ kind: z.literal(kind), data });

export const entryBodySchema = z.discriminatedUnion("kind", [
  body("intake.car", carSheetSchema),
  body(
    "intake.baseline",
    z.object({ test: key, result: z.enum(["pass", "fail", "absent"]), note, photo: uuid.optional() }),
  ),
  body("intake.wishes", z.object({ functions: z.array(key).max(200) })),
  body("intake.variant", z.object({ variant: pin, answers: z.record(key, key.nullable()) })),
  body("fit.kit", z.object({ kit: pin, choices: z.record(key, key) })),
  body(
    "fit.signed",
    z.object({
      name: z.string().trim().min(1, "Write the name of the person who signed.").max(120),
      kit: pin,
      choices: z.record(key, key),
      price: z.number().min(0),
    }),
  ),
  body("fit.confirm", z.object({ choices: z.record(key, key) })),
  body("strip.step", z.object({ step: key, direction: z.enum(["in", "back"]), confirmed: z.array(key).max(20) })),
  body("strip.skip", z.object({ step: key, reason: reason("Write why the step is left out.") })),
  body(
    "strip.add",
    z.object({
      id: stepId,
      before: key.nullable(),
      title: z.string().trim().min(1, "Write what was done.").max(200),
      detail: note,
      tool: z.string().trim().min(1).max(80).optional(),
      panel: z.string().trim().min(1).max(80).optional(),
      fasteners: z
        .array(
          z.object({
            kind: z.string().trim().min(1).max(80),
            count: z.int().positive().max(200),
            lengthMm: z.number().positive().max(500).optional(),
            tray: z.string().trim().min(1).max(12),
          }),
        )
        .max(10)
        .optional(),
    }),
  ),
  body("strip.want", z.object({ step: key, wanted: z.boolean() })),
  body("strip.split", z.object({ step: key, parts: z.array(z.string().trim().min(1).max(200)).min(2).max(6) })),
  body(
    "strip.note",
    z.object({
      step: key,
      note,
      photo: uuid.optional(),
      differs: z
        .object({
          tool: z.string().trim().min(1).max(80).optional(),
          fasteners: z
            .array(
              z.object({
                group: z.int().min(0).max(50),
                count: z.int().min(0).max(200).optional(),
                lengthMm: z.number().positive().max(500).optional(),
              }),
            )
            .max(20)
            .optional(),
        })
        .optional(),
    }),
  ),
  body(
    "strip.count",
    z.object({
      step: key,
      group: z.int().min(0).max(50),
      direction: z.enum(["in", "out"]),
      count: z.int().min(0).max(200),
    }),
  ),
  body(
    "strip.small",
    z.object({
      step: key.nullable(),
      what: z.string().trim().min(1, "Write what is broken or lost.").max(200),
      state: z.enum(["broken", "lost"]),
      count: z.int().positive().max(200),
    }),
  ),
  body("strip.gate", z.object({ reason: reason("Write why the bench test is passed over.") })),
  body("strip.maintainer", z.object({ connected: z.boolean() })),
  body(
    "connect.plug",
    z.object({ link: key, plugged: z.boolean(), at: key.optional(), turned: z.boolean().optional() }),
  ),
  body("connect.place", z.object({ part: key, place: key })),
  body("connect.task", z.object({ task: key, done: z.boolean() })),
  body("connect.feedTest", z.object({ position: key, state: z.enum(TEST_STATES), lit: z.boolean() })),
  body("connect.tap", z.object({ lit: z.boolean() })),
  body("connect.feed", z.object({ position: key.nullable() })),
  body(
    "connect.reading",
    z.object({ reading: z.enum(READINGS.map((r) => r.kind)), value: z.number().min(0).max(10_000_000) }),
  ),
  body("configure.switches", z.object({ settings: z.record(key, key) })),
  body("configure.set", z.object({ setting: key, done: z.boolean() })),
  body("configure.powerCycle", z.object({}).strict() as z.ZodType<Record<string, never>>),
  body("bus.file", z.object({ file: uuid, name: z.string().min(1).max(200), what: z.enum(["log", "dbc"]) })),
  body(
    "prove.result",
    z.object({ test: key, answer: z.enum(["pass", "nothing", "wrong", "late", "impossible"]), note }),
  ),
  body("prove.check", z.object({ check: key, answer: key })),
  body("prove.repair", z.object({ fault: key, title: z.string().min(1).max(300), remedy: z.string().max(300) })),
  body("handover.point", z.object({ text: z.string().trim().min(1).max(500) })),
  body("handover.close", z.object({ openPoints: z.array(z.string().max(500)).max(100) })),
  body("handover.reopen", z.object({ reason: z.string().trim().min(1).max(500) })),
  body("undo", z.object({ entry: uuid })),
]) satisfies z.ZodType<EntryBody>;

const entrySchema = z.intersection(
  entryBodySchema,
  z.object({ id: uuid, at: z.iso.datetime(), by: z.string().min(1).max(120) }),
);

/** A whole job as one JSON file: documents, log, nothing else. */
export const jobFileSchema = z.strictObject({
  format: z.literal("iteron-job"),
  formatVersion: z.literal(1),
  job: z.object({ title: z.string().trim().min(1).max(200), customer: z.string().trim().max(200) }),
  documents: z.object({ car: carSchema, variant: variantSchema.nullable(), kit: kitSchema.nullable() }),
  entries: z.array(entrySchema).max(20_000),
});
export type JobFile = z.infer<typeof jobFileSchema>;
