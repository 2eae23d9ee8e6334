/** Parts, connections, conditions and functions: the vocabulary of the behaviour model. */
import { z } from "zod";
import { SIGNAL_KINDS } from "../../core/model/kinds";
import type { KitCondition } from "../../core/model/profile";
import { BREAK_IDS, INSTEAD_IDS } from "../../core/model/sight";
import type { Condition, Inspection, Monitor, NormalState, Situation } from "../../core/model/types";
import { backSchema } from "./drawings";
import { figuresSchema } from "./figures";
import { attributes, contactRef, id, place, portRef, text } from "./labels";

export const situationSchema = z.strictObject({
  key: z.enum(["off", "accessory", "on", "cranking", "running"]),
  selector: z.enum(["P", "R", "N", "D"]),
  parkingBrake: z.boolean(),
  lights: z.boolean(),
  source: z.enum(["radio", "lineIn", "bluetooth", "usb"]),
  pictureMode: z.enum(["factory", "phone"]),
  speedKmh: z.number().min(0).max(300),
  phone: z.enum(["none", "wired", "wireless", "rememberedWired"]),
  paired: z.boolean(),
  pressed: z.string().max(60),
  heldS: z.number().min(0).max(60),
  leftReverse: z.boolean(),
}) satisfies z.ZodType<Situation>;
/** What of a setting to make stands in a kit and beside a firmware version alike. */
export const settingShape = {
  setting: portRef,
  value: z.string().min(1).max(60),
  say: text,
  minutes: z.number().min(0).max(600),
  where: text.optional(),
  moves: z
    .array(z.strictObject({ from: contactRef, to: contactRef, cut: z.boolean().optional() }))
    .max(40)
    .optional(),
};
export const someSituation = situationSchema.partial();
const field = z.enum(Object.keys(situationSchema.shape) as [keyof Situation, ...(keyof Situation)[]]);

const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    z.strictObject({ all: z.array(conditionSchema).min(1) }),
    z.strictObject({ any: z.array(conditionSchema).min(1) }),
    z.strictObject({ not: conditionSchema }),
    z.strictObject({ situation: field, is: z.array(z.union([z.string(), z.number(), z.boolean()])).min(1) }),
    z.strictObject({ situation: field, atMost: z.number() }),
    z.strictObject({ situation: field, atLeast: z.number() }),
    z.strictObject({ setting: id, is: z.array(z.string()).min(1) }),
    z.strictObject({ present: place, where: attributes.optional() }),
    z.strictObject({ hears: id, bus: id }),
  ]),
);

const contact = z.strictObject({
  id,
  kind: z.enum(SIGNAL_KINDS),
  direction: z.enum(["in", "out", "wire"]),
  label: text.optional(),
  wire: z.strictObject({ base: text, tracer: text.optional() }).optional(),
});
export const lock = z.enum(["tongue", "lever", "slide", "screw", "none"]);
const connector = z.strictObject({
  family: text,
  ways: z.int().min(1).max(200),
  gender: z.enum(["male", "female"]),
  keying: z.string().max(40).optional(),
  colour: z.string().max(40).optional(),
  reversible: z.boolean().optional(),
  rows: z.int().min(1).max(8).optional(),
  lock: lock.optional(),
  opens: text.optional(),
});
const port = z.strictObject({
  id,
  label: text,
  connector: connector.optional(),
  joint: z.enum(["wire", "cavity"]).optional().describe("An end without a housing: joined to wires, or into cavities"),
  inside: z.boolean().optional(),
  contacts: z.array(contact).min(1).max(200),
});
export const kitCondition: z.ZodType<KitCondition> = z.lazy(() =>
  z.union([
    z.strictObject({ choice: id, is: z.array(id).min(1) }),
    z.strictObject({ car: z.enum(["gearbox", "driveSide"]), is: z.array(id).min(1) }),
    z.strictObject({ fact: portRef, is: z.array(z.string().max(60)).min(1) }),
    z.strictObject({ all: z.array(kitCondition).min(1).max(20) }),
    z.strictObject({ any: z.array(kitCondition).min(1).max(20) }),
    z.strictObject({ not: kitCondition }),
  ]),
);
export const when = kitCondition.optional();

export const needShape = { at: place, where: attributes.optional(), say: text };
export const partShape = {
  id,
  name: text,
  type: z.enum(["device", "lead", "loom"]),
  lengthM: z.number().positive().max(50).optional().describe("Length, m"),
  twisted: z.boolean().optional().describe("Its bus wires are twisted"),
  ports: z.array(port).min(1),
  needs: z.array(z.strictObject(needShape)).optional(),
  joins: z
    .array(
      z.strictObject({
        contacts: z.array(place).min(2).describe("Contacts that are one wire"),
        mm2: z.number().min(0.05).max(120).optional().describe("Cross-section, mm²"),
        fuseA: z.number().positive().max(500).optional().describe("Fuse in it, A"),
      }),
    )
    .optional(),
  sources: z
    .array(
      z.strictObject({
        id,
        at: z.array(place).min(1),
        attributes: attributes.optional(),
        when: conditionSchema.optional(),
        settleMs: z.number().min(0).optional(),
      }),
    )
    .optional(),
  messages: z.array(z.strictObject({ bus: id, name: id, when: conditionSchema.optional() })).optional(),
  buses: z
    .array(
      z.strictObject({
        id,
        high: place,
        low: place,
        terminatorOhm: z.number().min(10).max(100_000).optional(),
        kbit: z.number().min(5).max(8000).optional(),
      }),
    )
    .optional(),
  routes: z
    .array(
      z.strictObject({
        id,
        from: place,
        to: place,
        when: conditionSchema.optional(),
        set: attributes.optional(),
        settleMs: z.number().min(0).optional(),
      }),
    )
    .optional(),
  settings: z
    .array(
      z.strictObject({
        id,
        label: text,
        values: z.array(z.string()).min(2),
        initial: z.string(),
        follows: z.enum(["surface", "messages"]).optional(),
      }),
    )
    .optional(),
  facts: attributes.optional(),
  figures: figuresSchema.optional(),
  looks: z.enum(["back", "ahead"]).optional(),
  lamp: text.optional(),
  draws: z
    .strictObject({
      onA: z.number().min(0).max(60).describe("Steady, A"),
      peakA: z.number().min(0).max(100).optional().describe("At the start, A"),
      sleepMa: z.number().min(0).max(5000).optional().describe("Asleep, mA"),
      duty: z.number().min(0).max(1).optional().describe("Share of the time, 0 to 1"),
      minimumV: z.number().min(0).max(16).optional().describe("Lowest supply, V"),
    })
    .optional()
    .describe("What it draws"),
  reachMinutes: z.number().min(0).max(600).optional().describe("Minutes to reach it, dash open"),
  back: backSchema.optional(),
  photos: z
    .array(
      z.strictObject({
        of: z.enum(["part", "plug", "label"]),
        sha256: z.string().regex(/^[0-9a-f]{64}$/),
        say: z.string().max(200).optional(),
      }),
    )
    .max(8)
    .optional(),
};
export const part = z.strictObject(partShape);
export const linkShape = { id, a: portRef, b: portRef, reversed: z.boolean().optional(), air: z.boolean().optional() };
export const link = z.strictObject(linkShape);

const expectation = z.strictObject({
  at: contactRef,
  where: z.record(z.string(), z.union([z.string(), z.strictObject({ fact: portRef })])),
});
export const functionShape = {
  id,
  name: text,
  say: text,
  who: z.enum(["customer", "law", "shop"]),
  observe: z.array(expectation).min(1),
  situations: z.array(z.strictObject({ id, label: text, set: someSituation, actions: z.array(id).optional() })).min(1),
  withinMs: z.number().positive().optional(),
  minutes: z.number().positive().max(240),
  caution: text.optional(),
};
export const functionSpec = z.strictObject(functionShape);
export const assumed = z.strictObject({
  id,
  title: text,
  cause: text,
  remedy: text,
  normal: z.boolean(),
  where: someSituation,
  set: someSituation,
  weight: z.number().positive().max(100),
  minutes: z.number().positive().max(240),
  seen: text.optional(),
});
const seconds = z.number().min(0).max(86_400);
export const normalState = z.strictObject({
  id,
  title: text,
  seen: text,
  shows: z.array(z.enum(INSTEAD_IDS)).min(1).max(6).optional(),
  breaksAt: z.enum(BREAK_IDS).optional(),
  why: text,
  remedy: text,
  lastsS: z
    .strictObject({ min: seconds, max: seconds })
    .refine((l) => l.min <= l.max, "min must not be over max")
    .optional(),
  functions: z.array(id).min(1).max(60),
}) satisfies z.ZodType<NormalState>;
export const inspection = z.strictObject({
  id,
  kind: z.enum(["look", "measure", "exchange"]),
  at: z.string().min(1).max(200).describe("Where: a part, socket or contact"),
  title: text,
  how: text.describe("How it is done"),
  minutes: z.number().positive().max(240).optional(),
  window: z
    .strictObject({
      unit: z.enum(["V", "Ω", "A"]),
      min: z.number().min(0).max(10_000_000),
      max: z.number().min(0).max(10_000_000),
    })
    .refine((w) => w.min <= w.max, "min must not be over max")
    .optional()
    .describe("What a sound reading is"),
  situation: someSituation.optional().describe("State of the car for it"),
}) satisfies z.ZodType<Inspection>;
export const monitorShape = {
  id,
  by: id.describe("Control unit that watches"),
  code: z
    .string()
    .regex(/^[PCBU][0-3][0-9A-F]{3}(-[0-9A-F]{2})?$/, "a code such as B1234 or B1234-13")
    .describe("Fault code it stores"),
  say: text.describe("What the code says"),
  watch: z.array(expectation).min(1).max(20).optional().describe("What must arrive"),
  fitted: z.array(id).min(1).max(20).optional().describe("Parts that must be fitted"),
  situation: someSituation.optional().describe("State of the car for it"),
  armed: z.strictObject({ setting: portRef, is: z.array(z.string()).min(1) }).optional(),
};
export const monitor = z.strictObject(monitorShape) satisfies z.ZodType<Monitor>;
export const action = z.strictObject({
  id,
  say: text,
  part: id,
  press: text,
  holdS: z.strictObject({ min: z.number().min(0), max: z.number().positive() }),
  when: conditionSchema,
  set: someSituation,
});
