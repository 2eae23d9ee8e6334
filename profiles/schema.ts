/**
 * Zod schemas of the documents. They guard every door through which a document enters: library files, uploads,
 * rows of the database. Types live in `core/`; the assertions at the end keep both the same.
 */
import { z } from "zod";
import { SIGNAL_KINDS } from "../core/model/kinds";
import type { CarProfile, KitCondition, KitProfile, StripPlan, VariantProfile } from "../core/model/profile";
import type { Condition, Situation } from "../core/model/types";
import { FUSE_COLOURS, FUSE_FAMILIES } from "../core/power/fuse";

const id = z
  .string()
  .regex(/^[A-Za-z0-9_+-]+$/, "letters, digits, - + _ only, no dots")
  .max(60);
const place = z.string().regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read port.contact");
const portRef = z.string().regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read part.port");
const contactRef = z
  .string()
  .regex(/^[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+\.[A-Za-z0-9_+-]+$/, "must read part.port.contact");
const text = z.string().trim().min(1).max(600);
const attributes = z.record(z.string(), z.string());
const version = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, "a version such as 3.12 or R2-410")
  .max(40);

const situationSchema = z.strictObject({
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
const someSituation = situationSchema.partial();
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
const connector = z.strictObject({
  family: text,
  ways: z.int().min(1).max(200),
  gender: z.enum(["male", "female"]),
  keying: z.string().max(40).optional(),
  colour: z.string().max(40).optional(),
  reversible: z.boolean().optional(),
  rows: z.int().min(1).max(8).optional(),
});
const port = z.strictObject({
  id,
  label: text,
  connector: connector.optional(),
  inside: z.boolean().optional(),
  contacts: z.array(contact).min(1).max(200),
});
const kitCondition = z.union([
  z.strictObject({ choice: id, is: z.array(id).min(1) }),
  z.strictObject({ car: z.enum(["gearbox", "driveSide"]), is: z.array(id).min(1) }),
  z.strictObject({ fact: portRef, is: z.array(z.string().max(60)).min(1) }),
]) satisfies z.ZodType<KitCondition>;
const when = kitCondition.optional();

const partShape = {
  id,
  name: text,
  type: z.enum(["device", "lead", "loom"]),
  lengthM: z.number().positive().max(50).optional(),
  ports: z.array(port).min(1),
  needs: z.array(z.strictObject({ at: place, where: attributes.optional(), say: text })).optional(),
  joins: z.array(z.strictObject({ contacts: z.array(place).min(2) })).optional(),
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
  buses: z.array(z.strictObject({ id, high: place, low: place })).optional(),
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
    .array(z.strictObject({ id, label: text, values: z.array(z.string()).min(2), initial: z.string() }))
    .optional(),
  facts: attributes.optional(),
  lamp: text.optional(),
  draws: z
    .strictObject({
      onA: z.number().min(0).max(60),
      peakA: z.number().min(0).max(100).optional(),
      sleepMa: z.number().min(0).max(5000).optional(),
      duty: z.number().min(0).max(1).optional(),
      minimumV: z.number().min(0).max(16).optional(),
    })
    .optional(),
  reachMinutes: z.number().min(0).max(600).optional(),
};
const part = z.strictObject(partShape);
const linkShape = { id, a: portRef, b: portRef, reversed: z.boolean().optional(), air: z.boolean().optional() };
const link = z.strictObject(linkShape);

const functionShape = {
  id,
  name: text,
  say: text,
  who: z.enum(["customer", "law", "shop"]),
  observe: z
    .array(
      z.strictObject({
        at: contactRef,
        where: z.record(z.string(), z.union([z.string(), z.strictObject({ fact: portRef })])),
      }),
    )
    .min(1),
  situations: z.array(z.strictObject({ id, label: text, set: someSituation, actions: z.array(id).optional() })).min(1),
  withinMs: z.number().positive().optional(),
  minutes: z.number().positive().max(240),
  caution: text.optional(),
};
const functionSpec = z.strictObject(functionShape);
const assumed = z.strictObject({
  id,
  title: text,
  cause: text,
  remedy: text,
  normal: z.boolean(),
  where: someSituation,
  set: someSituation,
  weight: z.number().positive().max(100),
  minutes: z.number().positive().max(240),
});
const action = z.strictObject({
  id,
  say: text,
  part: id,
  press: text,
  holdS: z.strictObject({ min: z.number().min(0), max: z.number().positive() }),
  when: conditionSchema,
  set: someSituation,
});

const threeMinutes = z
  .strictObject({
    low: z.number().positive().max(600),
    usual: z.number().positive().max(600),
    high: z.number().positive().max(600),
  })
  .refine((m) => m.low <= m.usual && m.usual <= m.high, "low, usual and high must not fall");
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
        lock: z.enum(["tongue", "lever", "slide", "screw", "none"]).optional(),
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
  caution: text.optional(),
  drawing: panelDrawing.optional(),
});
const stripPlanSchema = z.strictObject({
  steps: z.array(stripStepSchema),
  free: reach.optional(),
  batteryWaitMin: z.number().min(0).max(120).optional(),
  batterySide: side.optional(),
  selectorRelease: z.enum(["pedal", "tab"]).optional(),
}) satisfies z.ZodType<StripPlan>;

const minutes = z.number().min(0).max(3000);
const head = { id, version: z.int().positive(), title: text, sourceNote: text };

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
      sideEffects: z.array(text),
    }),
  ),
  written: z.array(text).optional(),
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
  usual: someSituation,
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
  stripPlan: stripPlanSchema,
}) satisfies z.ZodType<CarProfile>;

export const variantSchema = z.strictObject({
  document: z.literal("variant"),
  ...head,
  car: id,
  answers: z.record(id, z.array(id).min(1)).optional(),
  share: z.number().positive().max(1_000_000).optional(),
  firmware: firmwareSchema.optional(),
  tells: z.array(text),
  parts: z.array(part).min(1),
  links: z.array(link),
  functions: z.array(functionSpec),
}) satisfies z.ZodType<VariantProfile>;

export const kitSchema = z.strictObject({
  document: z.literal("kit"),
  ...head,
  maker: text,
  work: text,
  price: z.number().min(0).max(1_000_000),
  fitMinutes: z.strictObject({ low: minutes, usual: minutes, high: minutes }),
  fits: z.array(z.strictObject({ condition: kitCondition, why: text })),
  replaces: z.array(z.strictObject({ part: id, why: text, ifPresent: z.boolean().optional() })),
  parts: z.array(z.strictObject({ ...partShape, when })).min(1),
  unplug: z.array(z.strictObject({ a: portRef, b: portRef, why: text, when })),
  plug: z.array(z.strictObject({ ...linkShape, say: text, when })),
  reach: z.array(z.strictObject({ place: text, why: text, when })).optional(),
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
  choices: z.array(
    z.strictObject({
      id,
      label: text,
      kind: z.enum(["offer", "school"]),
      usual: id,
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
      setting: portRef,
      value: z.string().max(60),
      means: z.enum(["coding", "gateway", "menu", "programmingPlug", "firmware", "contacts", "programming"]),
      say: text,
      minutes: z.number().min(0).max(600),
      when,
    }),
  ),
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
  card: z.array(text),
}) satisfies z.ZodType<KitProfile>;

export const profileSchema = z.discriminatedUnion("document", [carSchema, variantSchema, kitSchema]);
export type Profile = CarProfile | VariantProfile | KitProfile;
export type ProfileKind = Profile["document"];
