/** Zod schemas of job entries and of the exported job file. */
import { z } from "zod";
import { OUTPUT_IDS } from "../core/bus/translation/translation";
import { AXES } from "../core/camera/turn";
import { PAIRING_STEPS } from "../core/configure/pairing";
import { PAIRING_TROUBLES } from "../core/configure/pairing-troubles";
import { PLUG_EVENTS } from "../core/configure/programming-plug";
import type { AskedOf, Command, DataOf, EntryBody, EntryKind, JobEntry } from "../core/log/entry";
import { SESSION_ACTS } from "../core/log/kinds/configure/session";
import { TEST_STATES } from "../core/log/kinds/connect/feed-test";
import { READING_KINDS, type ReadingKind } from "../core/log/kinds/connect/reading";
import { UNREAD, type Unread } from "../core/log/kinds/intake/unread";
import { upgradeEntry, versionOf } from "../core/log/upgrade";
import { CoreError } from "../core/model/errors";
import { FIGURES, type FigureName } from "../core/model/figures";
import { BREAK_IDS, INSTEAD_IDS } from "../core/model/sight";
import { CORNERS } from "../core/prove/corners";
import { SIGHT_IDS } from "../core/prove/sequence-sights";
import { TARGET_IDS } from "../core/prove/touch-targets";
import { PAIR_IDS } from "../core/sound/polarity";
import { busMapSchema, carSchema, codingSchema, kitSchema, variantSchema } from "./schema";
import { foundShape, rulesSchema } from "./schema/translation";

/** Longest log of a session, in characters: about two thousand frames. */
const MAX_SESSION = 90_000;
const sessionVolts = z.number().min(0).max(30).nullable().optional();
const key = z.string().min(1).max(120);
const note = z.string().trim().max(1000);
const uuid = z.uuid();
const reason = (message: string) => z.string().trim().min(3, message).max(500);
const stepId = z.string().regex(/^[A-Za-z0-9_+-]{1,60}$/);

const carFields = z
  .object({
    identification: z.string().trim().max(40),
    plate: z.string().trim().max(20),
    odometer: z.string().regex(/^(\d{1,7} (km|mi))?$/, "A number with km or mi."),
    firmware: z.string().trim().max(60),
    faultCodes: z.string().trim().max(2000),
    note,
  })
  .partial();

const photoPoint = z.object({ x: z.number().min(-1e5).max(1e5), y: z.number().min(-1e5).max(1e5) });
const screenCorners = z.tuple([photoPoint, photoPoint, photoPoint, photoPoint]);
const pin = z.object({ slug: key, version: z.int().positive() });
const choices = z.record(key, key);
const fasteners = z
  .array(
    z.object({
      kind: z.string().trim().min(1).max(80),
      count: z.int().positive().max(200),
      lengthMm: z.number().positive().max(500).optional(),
      tray: z.string().trim().min(1).max(12),
    }),
  )
  .max(10);
const differs = z.object({
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
});
const standFields = z
  .object({
    battery: z.enum(["connected", "isolated"]),
    key: z.enum(["off", "accessory", "on", "cranking", "running"]),
    selector: z.enum(["P", "R", "N", "D"]),
    parkingBrake: z.boolean(),
    rolling: z.boolean(),
    maintainer: z.boolean(),
    waited: z.boolean(),
  })
  .partial();
const standSchema = standFields.refine((sets) => Object.keys(sets).length > 0, "Say how the car stands.");
const seen = {
  setting: key,
  what: z.enum(["blank", "loaded"]),
  identification: z.string().trim().max(40),
  data: z.string().trim().max(120),
};

/** What a person may ask for, by kind. A kind without a line is a type error. */
const COMMANDS: { [K in EntryKind]: z.ZodType<AskedOf<K>> } = {
  "intake.car": z
    .object({ changed: carFields, before: carFields })
    .refine(({ changed, before }) => Object.keys(changed).every((f) => f in before), "Say what stood there before."),
  "intake.baseline": z.object({ test: key, result: z.enum(["pass", "fail", "absent"]), note, photo: uuid.optional() }),
  "intake.wishes": z.object({ functions: z.array(key).max(200) }),
  "intake.variant": z.object({ variant: pin, answers: z.record(key, key.nullable()) }),
  "intake.unread": z.object({
    what: z.enum(Object.keys(UNREAD) as Unread[]),
    reason: reason("Write why it cannot be read."),
  }),
  "fit.kit": z.object({ kit: pin, choices }),
  "fit.confirm": z.object({ choices }),
  "fit.signed": z.object({
    name: z.string().trim().min(1, "Write the name of the person who signed.").max(120),
    kit: pin,
    choices,
  }),
  "strip.step": z.object({ step: key, direction: z.enum(["in", "back"]) }),
  "strip.skip": z.object({ step: key, reason: reason("Write why the step is left out.") }),
  "strip.add": z.object({
    id: stepId,
    before: key.nullable(),
    title: z.string().trim().min(1, "Write what was done.").max(200),
    detail: note,
    tool: z.string().trim().min(1).max(80).optional(),
    panel: z.string().trim().min(1).max(80).optional(),
    fasteners: fasteners.optional(),
  }),
  "strip.want": z.object({ step: key, wanted: z.boolean() }),
  "strip.split": z.object({ step: key, parts: z.array(z.string().trim().min(1).max(200)).min(2).max(6) }),
  "strip.note": z.object({ step: key, note, photo: uuid.optional(), differs: differs.optional() }),
  "strip.count": z.object({
    step: key,
    group: z.int().min(0).max(50),
    direction: z.enum(["in", "out"]),
    count: z.int().min(0).max(200),
  }),
  "strip.small": z.object({
    step: key.nullable(),
    what: z.string().trim().min(1, "Write what is broken or lost.").max(200),
    state: z.enum(["broken", "lost"]),
    count: z.int().positive().max(200),
  }),
  "strip.gate": z.object({ reason: reason("Write why the bench test is passed over.") }),
  "strip.maintainer": z.object({ connected: z.boolean() }),
  "strip.stands": z.object({ sets: standSchema }),
  "strip.behind": z.object({ step: key }),
  "connect.laidOut": z.object({}),
  "connect.plug": z.object({ link: key, plugged: z.boolean(), at: key.optional(), turned: z.boolean().optional() }),
  "connect.lock": z.object({ link: key, shut: z.boolean() }),
  "connect.place": z.object({ part: key, place: key }),
  "connect.task": z.object({ task: key, done: z.boolean() }),
  "connect.feedTest": z.object({ position: key, state: z.enum(TEST_STATES), lit: z.boolean() }),
  "connect.feed": z.object({ position: key.nullable() }),
  "connect.tap": z.object({ lit: z.boolean() }),
  "connect.reading": z.object({
    reading: z.enum(Object.keys(READING_KINDS) as ReadingKind[]),
    value: z.number().min(0).max(10_000_000),
  }),
  "configure.switches": z.object({ settings: choices }),
  "configure.set": z.object({ setting: key, done: z.boolean() }),
  "configure.powerCycle": z.object({ step: z.enum(["out", "in"]).optional() }),
  "configure.giveUp": z.object({ functions: z.array(key).max(200) }),
  "configure.plug": z.object({ event: z.enum(PLUG_EVENTS) }),
  "configure.pairing": z.intersection(
    z.object({ phone: z.string().trim().min(1).max(40) }),
    z.discriminatedUnion("act", [
      z.object({ act: z.literal("begin"), family: key.nullable() }),
      z.object({ act: z.literal("seen"), step: z.enum(PAIRING_STEPS) }),
      z.object({ act: z.literal("trouble"), step: z.enum(PAIRING_STEPS), trouble: z.enum(PAIRING_TROUBLES) }),
      z.object({ act: z.literal("again") }),
      z.object({ act: z.literal("dropped") }),
    ]),
  ),
  "configure.loaded": z.object({ ...seen, translation: z.boolean().default(false) }),
  "configure.firmware": z.object({
    state: z.enum(["started", "done", "interrupted"]),
    volts: z.number().min(0).max(30).optional(),
  }),
  "configure.map": z.object({ map: pin }),
  "configure.word": z.object({ word: key, hex: z.string().max(4000) }),
  "configure.session": z.object({ log: z.string().max(MAX_SESSION), act: z.enum(SESSION_ACTS), volts: sessionVolts }),
  "prove.codes": z.object({ text: z.string().max(4000) }),
  "prove.walk": z.object({ corner: z.enum(CORNERS), plays: z.enum([...CORNERS, "none", "several"]) }),
  "prove.moved": z.object({}),
  "prove.touch": z.object({
    test: key,
    target: z.enum(TARGET_IDS),
    at: z.object({ x: z.number().min(0).max(1), y: z.number().min(0).max(1) }).nullable(),
  }),
  "prove.aim": z.object({
    camera: key,
    pose: z.object({
      xM: z.number().min(-1.5).max(1.5),
      yM: z.number().min(-1.5).max(0.5),
      zM: z.number().min(0.15).max(2.5),
      yawDeg: z.number().min(-60).max(60),
      pitchDeg: z.number().min(FIGURES.cameraPitchDeg.min).max(FIGURES.cameraPitchDeg.max),
      rollDeg: z.number().min(-180).max(180),
    }),
    law: z.enum(["straight", "fisheye"]),
    acrossDeg: z.number().min(30).max(220),
    k1: z.number().min(-0.3).max(0.3).default(0),
    shape: z.number().min(1).max(2.4),
  }),
  "prove.sight": z.object({
    camera: key,
    sighting: z.object({
      corners: screenCorners,
      marks: z
        .array(
          z.object({
            id: z.string().trim().min(1).max(20),
            at: z.object({
              x: z.number("metres to the side").min(-10).max(10),
              y: z.number("metres from the bumper").min(0.05, "a mark lies in front of the camera").max(20),
            }),
            tap: photoPoint,
          }),
        )
        .max(60),
    }),
  }),
  "prove.turned": z.object({ camera: key }),
  "prove.lines": z.object({
    camera: key,
    corners: screenCorners,
    taps: z.object({ left: z.array(photoPoint).max(40), right: z.array(photoPoint).max(40) }),
    steeringWheelDeg: z.number().min(-1200).max(1200),
  }),
  "prove.reverseTime": z.object({
    camera: key,
    taken: z.discriminatedUnion("by", [
      z.object({ by: z.literal("stopwatch"), seconds: z.number().min(0).max(60) }),
      z.object({
        by: z.literal("frames"),
        frames: z.int().min(0).max(20_000),
        perSecond: z.number().min(5, "a video has at least 5 frames a second").max(1000),
      }),
    ]),
  }),
  "prove.step": z.object({ sequence: key, step: key, seen: z.enum(SIGHT_IDS) }),
  "prove.polarity": z.discriminatedUnion("by", [
    z.object({ by: z.literal("ear"), pair: z.enum(PAIR_IDS), fuller: z.enum(["same", "opposite", "alike"]) }),
    z.object({
      by: z.literal("microphone"),
      corner: z.enum(CORNERS),
      sign: z.union([z.literal(1), z.literal(-1), z.literal(0)]),
      likeness: z.number().min(-1.01).max(1.01),
    }),
  ]),
  "prove.hum": z.object({
    ground: z.enum(["without", "with"]),
    hz: z.union([z.literal(50), z.literal(60)]),
    levels: z.array(z.number().min(-200).max(20)).length(6),
    totalDb: z.number().min(-200).max(20),
  }),
  "prove.use": z.object({ use: key, works: z.boolean(), steps: z.int().min(-100).max(100).optional() }),
  "prove.figure": z.object({
    of: key,
    figure: z.enum(Object.keys(FIGURES) as [FigureName, ...FigureName[]]),
    value: z.number().nullable(),
  }),
  "bus.file": z.object({ file: uuid }),
  "bus.cues": z.object({
    file: uuid,
    things: z
      .array(
        z.object({
          id: key,
          name: z.string().trim().min(1).max(60),
          kind: z.enum(["keys", "positions", "level"]),
          rest: z.string().max(40),
          unit: z.string().max(12).optional(),
        }),
      )
      .min(1)
      .max(40),
    cues: z
      .array(
        z.object({
          thing: key,
          label: z.string().trim().min(1).max(60),
          fromS: z.number().min(-60).max(100_000),
          toS: z.number().min(-60).max(100_000),
          value: z.number().optional(),
        }),
      )
      .min(1)
      .max(2000),
  }),
  "bus.translation": z.object({ rules: rulesSchema }),
  "bus.proof": z.object({ file: uuid }),
  "bus.signal": z.object({ ...foundShape, file: uuid, thing: z.string().trim().max(60) }),
  "bus.map": z.object({ map: pin }),
  "prove.result": z.object({
    test: key,
    answer: z.enum(["pass", "nothing", "wrong", "late", "impossible"]),
    note,
    seen: z.enum(INSTEAD_IDS).optional(),
    right: z.array(key).max(16).optional(),
    breaksAt: z.enum(BREAK_IDS).optional(),
    afterS: z.number().min(0).max(600).optional(),
  }),
  "prove.check": z
    .object({ check: key, answer: key.optional(), value: z.number().min(0).max(10_000_000).optional() })
    .refine((c) => c.answer !== undefined || c.value !== undefined, "an answer or a value"),
  "prove.repair": z.object({ fault: key }),
  "handover.point": z.object({ text: z.string().trim().min(1).max(500) }),
  "handover.accept": z.object({ point: key, reason: reason("Write why it may stay open.") }),
  "handover.close": z.object({ as: z.enum(["ready", "unfinished"]).optional() }),
  "handover.reopen": z.object({ reason: z.string().trim().min(1).max(500) }),
  despite: z.object({ entry: uuid, guard: key, reason: reason("Write why you go on.") }),
  undo: z.object({ entry: uuid }),
};

const kept = z.string().max(500);
const bytes = z.array(z.int().min(0).max(255)).max(4095);
const says = { settings: z.record(key, key), about: z.array(key).max(400) };

/** What is stored, by kind: in most what was asked for. */
const ENTRIES: { [K in EntryKind]: z.ZodType<DataOf<K>> } = {
  ...COMMANDS,
  "intake.car": z.object({ changed: carFields, before: carFields }),
  "fit.kit": z.object({ kit: pin, choices, before: pin.nullable() }),
  "fit.confirm": z.object({ choices, before: choices }),
  "fit.signed": z.object({
    name: z.string().min(1).max(120),
    kit: pin,
    choices,
    price: z.number().min(0),
    currency: z.string().max(3),
    terms: z.array(z.string().max(500)).max(200),
  }),
  "connect.place": z.object({ part: key, place: key, before: kept }),
  "prove.check": z.object({ check: key, answer: key, value: z.number().optional() }),
  "configure.switches": z.object({ settings: choices, before: choices.nullable(), unpowered: z.boolean() }),
  "configure.powerCycle": z.object({ step: z.enum(["out", "in"]) }),
  "configure.giveUp": z.object({
    functions: z.array(z.object({ id: key, name: z.string().min(1).max(200) })).max(200),
  }),
  "configure.set": z.object({ setting: key, done: z.boolean(), before: kept, after: kept }),
  "configure.loaded": z.object({
    ...seen,
    car: z.enum(["this", "another", "notKnown"]),
    translation: uuid.nullable(),
  }),
  "configure.firmware": z.object({
    from: kept,
    to: kept,
    state: z.enum(["started", "done", "interrupted"]),
    volts: z.number().min(0).max(30).nullable(),
  }),
  "configure.word": z.object({ word: key, bytes, ...says }),
  "configure.session": z.object({
    log: z.string().max(MAX_SESSION),
    act: z.enum(SESSION_ACTS),
    volts: sessionVolts,
    units: z
      .array(
        z.object({
          unit: key,
          answered: z.boolean(),
          part: kept.nullable(),
          software: kept.nullable(),
          codes: z
            .array(z.object({ code: key, status: z.int(), records: kept.optional() }))
            .max(500)
            .nullable(),
          supported: z.array(key).max(4000).nullable().optional(),
          cleared: z.boolean(),
        }),
      )
      .max(100),
    words: z
      .array(
        z.object({
          word: key,
          bytes: bytes.nullable(),
          how: z.enum(["read", "written", "differs", "notReadBack"]),
          sent: bytes.nullable(),
          ...says,
        }),
      )
      .max(500),
  }),
  "bus.file": z.object({ file: uuid, name: z.string().min(1).max(200), what: z.enum(["log", "dbc"]) }),
  "bus.map": z.object({
    map: pin,
    title: z.string().max(600),
    signals: z.array(z.object({ ...foundShape, file: z.literal(""), thing: z.literal("") })).max(2000),
  }),
  "bus.proof": z.object({
    file: uuid,
    outputs: z
      .array(
        z.object({
          output: z.enum(OUTPUT_IDS),
          cued: z.int().min(0),
          met: z.int().min(0),
          misses: z.array(z.object({ label: z.string().max(60), atS: z.number() })).max(2000),
          falseAlarms: z.array(z.object({ fromS: z.number(), toS: z.number() })).max(20_000),
          delayS: z.number().nullable(),
          worstDelayS: z.number().nullable(),
          worstError: z.number().nullable(),
          passed: z.boolean(),
        }),
      )
      .max(40),
    translation: key,
  }),
  "prove.turned": z.object({
    camera: key,
    looks: z.enum(["back", "ahead"]),
    turns: z.array(z.object({ axis: z.enum(AXES), byDeg: z.number().min(-400).max(400) })).max(3),
  }),
  "prove.moved": z.object({
    plug: z.string().max(300),
    moves: z
      .array(
        z.object({
          from: key,
          to: key,
          corner: z.enum(CORNERS),
          pole: z.enum(["+", "-"]),
          waits: z.boolean(),
        }),
      )
      .max(40),
  }),
  "prove.repair": z.object({
    fault: key,
    title: z.string().min(1).max(300),
    remedy: z.string().max(300),
    normal: z.boolean(),
    tests: z.array(key).max(500),
    again: z.array(key).max(500).nullable(),
    looks: z.array(key).max(500).nullable(),
  }),
  "strip.step": z.object({
    step: key,
    direction: z.enum(["in", "back"]),
    confirmed: z.array(key).max(20).optional(),
  }),
  "strip.stands": z.object({ sets: standSchema, before: standFields }),
  "handover.accept": z.object({ point: key, reason: kept, text: z.string().max(2000) }),
  "handover.close": z.object({
    as: z.enum(["ready", "unfinished"]),
    openPoints: z.array(z.string().max(2000)).max(200),
    told: z.array(z.string().max(2000)).max(200),
  }),
};

/** A command as it comes over the wire. */
export const commandSchema = bodySchema<Command>(COMMANDS);
const entryBodySchema = bodySchema<EntryBody>(ENTRIES);

function bodySchema<T extends EntryBody | Command>(byKind: Record<EntryKind, z.ZodType>): z.ZodType<T> {
  const kinds = Object.entries(byKind).map(([kind, data]) => z.object({ kind: z.literal(kind), data }));
  return z.discriminatedUnion("kind", kinds as never) as unknown as z.ZodType<T>;
}

/**
 * A stored entry body in the present version of its kind.
 *
 * @param version in which it was written
 * @throws {EntryVersionError} for one that is yet to come; {ProfileError} for data that no version wrote
 */
export function readEntryBody(kind: string, version: number, data: unknown): EntryBody {
  const upgraded = upgradeEntry(kind, version, data);
  const parsed = entryBodySchema.safeParse(upgraded);
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw new CoreError(
    `entry ${kind} › ${issue?.path.slice(1).join(" › ")}`,
    `${issue?.message}.`,
    "The file was changed by hand or damaged; export the job again from where it came.",
  );
}

const stampSchema = z.object({
  id: uuid,
  at: z.iso.datetime(),
  by: z.string().min(1).max(120),
  kind: z.string().max(40),
  /** Version of the kind in which the entry was written; files of format 1 do not have it. */
  v: z.int().positive().default(1),
  data: z.unknown(),
});

/** An exported entry, brought to the present version as it is read. */
const entrySchema = stampSchema.transform(({ id, at, by, kind, v, data }, ctx): JobEntry => {
  try {
    return { ...readEntryBody(kind, v, data), id, at, by };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    ctx.addIssue({ code: "custom", message: `${error.where}: ${error.problem} ${error.remedy}` });
    return z.NEVER;
  }
});

/** A whole job as one JSON file: documents, log, nothing else. Format 2 says the version of every entry. */
export const jobFileSchema = z.strictObject({
  format: z.literal("iteron-job"),
  formatVersion: z.union([z.literal(1), z.literal(2)]),
  job: z.object({ title: z.string().trim().min(1).max(200), customer: z.string().trim().max(200) }),
  documents: z.object({
    car: carSchema,
    variant: variantSchema.nullable(),
    kit: kitSchema.nullable(),
    /** What the log names beside them: radios and kits that the job had before. */
    others: z
      .array(z.union([variantSchema, kitSchema, codingSchema, busMapSchema]))
      .max(100)
      .default([]),
  }),
  entries: z.array(entrySchema).max(20_000),
  /** Photos and logs that lie beside it in a bundle, by their identifiers. */
  files: z
    .array(
      z.strictObject({
        id: z.uuid(),
        name: z.string().min(1).max(200),
        what: z.enum(["log", "dbc", "photo"]),
        bytes: z.int().min(0),
      }),
    )
    .max(2000)
    .default([]),
});
export type JobFile = z.infer<typeof jobFileSchema>;

/** Entries as they are exported, each with its version. */
export function exportEntries(entries: readonly JobEntry[]) {
  return entries.map(({ id, at, by, kind, data }) => ({ id, at, by, kind, v: versionOf(kind), data }));
}
