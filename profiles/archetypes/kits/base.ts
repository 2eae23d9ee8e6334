import { z } from "zod";
import type { Choice, KitNeed, KitProfile } from "../../../core/model/profile";
import type { AssumedState, FunctionSpec, Part } from "../../../core/model/types";
import { radioPort } from "../plugs";
import {
  FEMALE,
  fourSpeakers,
  half,
  MALE,
  type Pins,
  pinsSchema,
  plugSchema,
  port,
  REVERSE_CAUTION,
  takes,
  USUAL_PINS,
  wire,
} from "../vocabulary";

export const words = z.string().trim().min(1).max(600);

/** What every kit leaflet says first. */
export const kitHead = {
  id: z
    .string()
    .regex(/^[a-z0-9-]+$/, "small letters, digits and - only")
    .describe("Identifier"),
  title: words.describe("Name of the kit"),
  maker: words.describe("Maker"),
  price: z.number().min(0).describe("Price"),
  fitMinutes: z
    .strictObject({ low: z.number().min(0), usual: z.number().min(0), high: z.number().min(0) })
    .describe("Minutes of fitting"),
  sourceNote: words.default("Invented for the demonstration.").describe("Where the facts come from"),
  box: z.array(words).default([]).describe("In the box, beside the parts named below"),
  card: z.array(words).default([]).describe("Lines for the customer's card"),
};
const headSchema = z.strictObject(kitHead);
export type KitHead = z.infer<typeof headSchema>;

/** The car's radio plug and which contacts the harness uses. */
export const harnessShape = {
  radioPlug: plugSchema.describe("Radio plug of the car"),
  pins: pinsSchema.default(USUAL_PINS).describe("Contacts of the radio plug"),
};

/** A kit with nothing in it yet but its head; builders fill the rest. */
export function emptyKit(l: KitHead, work: string): KitProfile {
  return {
    document: "kit",
    id: l.id,
    version: 1,
    title: l.title,
    sourceNote: l.sourceNote,
    maker: l.maker,
    work,
    price: l.price,
    fitMinutes: l.fitMinutes,
    fits: [],
    replaces: [],
    parts: [],
    unplug: [],
    plug: [],
    choices: [],
    functions: [],
    actions: [],
    assumed: [],
    sets: [],
    firmwareFloors: [],
    box: l.box,
    needs: [],
    card: l.card,
  };
}

/** Plug of a small module: battery, ground, bus. */
export const MODULE_PLUG = { family: "Module 12", ways: 12, keying: "M" };
export const MODULE_PINS = { battery: "1", ground: "2", high: "3", low: "4" };

/** Contacts of the module's own plug; `more` for triggers and feeds of the kit. */
export function modulePlug(gender: "male" | "female", more: ReturnType<typeof wire>[] = []) {
  const isModule = gender === MALE;
  return port("main", isModule ? "main plug" : "module end", half(MODULE_PLUG, gender), [
    isModule ? takes("1", "battery") : wire("1", "battery"),
    isModule ? takes("2", "ground") : wire("2", "ground"),
    wire("3", "can", "bus high"),
    wire("4", "can", "bus low"),
    ...more,
  ]);
}

/**
 * T-harness between the car's radio plug and the radio: every contact straight through, supply and bus also to the
 * module. With a ring its contacts pass only when they were moved into the harness plug.
 */
export function tHarness(
  l: { radioPlug: z.infer<typeof plugSchema>; pins: Pins },
  ring: boolean,
  accessory = false,
): Part {
  const { pins } = l;
  const contacts = radioPort(pins, ring, accessory);
  const straight = contacts
    .filter((c) => !["can", "battery", "ground", "opticalRing"].includes(c.kind) && c.id !== "s")
    .map((c) => ({ contacts: [`car.${c.id}`, `radio.${c.id}`] }));
  const moved = { setting: "ring", is: ["moved"] };
  return {
    id: "harness",
    name: "T-harness",
    type: "lead",
    lengthM: 0.35,
    reachMinutes: 1,
    ports: [
      port("car", "car end", half(l.radioPlug, MALE), contacts),
      port("radio", "radio end", half(l.radioPlug, FEMALE), contacts),
      port("module", "module end", half(MODULE_PLUG, FEMALE), [
        wire("1", "battery"),
        wire("2", "ground"),
        wire("3", "can", "bus high"),
        wire("4", "can", "bus low"),
      ]),
    ],
    joins: [
      ...straight,
      { contacts: [`car.${pins.high}`, `radio.${pins.high}`, "module.3"] },
      { contacts: [`car.${pins.low}`, `radio.${pins.low}`, "module.4"] },
      { contacts: [`car.${pins.battery}`, `radio.${pins.battery}`, "module.1"] },
      { contacts: [`car.${pins.ground}`, `radio.${pins.ground}`, "module.2"] },
    ],
    ...(ring
      ? {
          settings: [
            { id: "ring", label: "Optical contacts", values: ["in the old plug", "moved"], initial: "in the old plug" },
          ],
          routes: [
            { id: "ringOut", from: "radio.ro", to: "car.ro", when: moved },
            { id: "ringBack", from: "car.ri", to: "radio.ri", when: moved },
            { id: "ringSound", from: "radio.s", to: "car.s", when: moved },
          ],
        }
      : {}),
  };
}

/** The two links and the opened plug that put a T-harness in place. */
export const HARNESS_UNPLUG = { a: "loom.radio", b: "radio.main", why: "The T-harness goes between." };
export const HARNESS_LINKS = [
  { id: "k-car", a: "harness.car", b: "loom.radio", say: "T-harness into the car's radio plug" },
  { id: "k-radio", a: "harness.radio", b: "radio.main", say: "T-harness into the radio" },
];
export const MODULE_LINK = {
  id: "k-module",
  a: "harness.module",
  b: "module.main",
  say: "T-harness into the module, last: this gives it power",
};

export const RING_SETTING = {
  setting: "harness.ring",
  value: "moved",
  means: "contacts" as const,
  say: "Move the two optical contacts from the car's plug into the harness plug; fibre not tighter than 25 mm radius",
  minutes: 6,
};

/** Choices that change nothing in the parts, only the way of working. */
export function schools(...which: ("micPlace" | "feed" | "foam" | "closing" | "pairing")[]): Choice[] {
  return which.map((id) => SCHOOLS[id]);
}

const SCHOOLS: Record<"micPlace" | "feed" | "foam" | "closing" | "pairing", Choice> = {
  micPlace: {
    id: "micPlace",
    label: "Place of the added microphone",
    kind: "school",
    usual: "headlining",
    options: [
      {
        id: "headlining",
        label: "Beside the factory microphone, behind the mesh",
        why: "Best pickup; longest lead, headlining edge down.",
        minutes: 15,
      },
      {
        id: "pillar",
        label: "Top of the A-pillar",
        why: "Good pickup; the lead goes behind the airbag, never across its front.",
        minutes: 10,
      },
      {
        id: "column",
        label: "Column shroud",
        why: "Short lead; hears the driver well, the passenger badly.",
        minutes: 0,
      },
      { id: "vent", label: "Behind a vent", why: "Best hidden; hears the fan.", minutes: -3 },
    ],
  },
  feed: {
    id: "feed",
    label: "Accessory feed",
    kind: "school",
    usual: "bus",
    options: [
      {
        id: "bus",
        label: "From the bus, through the module",
        why: "No wire to find; works only when the module understands the car's messages.",
      },
      {
        id: "fuse",
        label: "From a switched position of the fuse panel",
        why: "Works on every car; a live, switched, unimportant circuit must be found and fused.",
        minutes: 20,
      },
    ],
  },
  foam: {
    id: "foam",
    label: "Module against rattle",
    kind: "school",
    usual: "bare",
    options: [
      { id: "bare", label: "Tied down bare", why: "Runs coolest." },
      {
        id: "foam",
        label: "Wrapped in foam, vents free",
        why: "Quiet on rough roads; the vents are never covered.",
        minutes: 5,
      },
    ],
  },
  closing: {
    id: "closing",
    label: "Order of closing",
    kind: "school",
    usual: "proveFirst",
    options: [
      { id: "proveFirst", label: "Prove first, then close from top to bottom", why: "Nothing is opened twice." },
      {
        id: "upperEarly",
        label: "Close the upper dash as soon as its leads are through",
        why: "Fewer loose parts; a fault found later opens it again.",
        minutes: -10,
      },
    ],
  },
  pairing: {
    id: "pairing",
    label: "First pairing",
    kind: "school",
    usual: "wireless",
    options: [
      {
        id: "wireless",
        label: "Wireless from the start",
        why: "A phone first used by cable may remember it and refuse wireless.",
      },
      {
        id: "cable",
        label: "First by cable, then wireless",
        why: "Some phones take the wireless profile only after a first meeting by cable.",
      },
    ],
  },
};

export const SOUND_FUNCTION = (source: "lineIn" | "bluetooth" | "usb", label: string): FunctionSpec => ({
  id: "phoneSound",
  name: "Phone sound on four speakers",
  say: `Choose ${label}, play music on the phone; move balance and fader to each corner.`,
  who: "customer",
  observe: fourSpeakers("phone"),
  situations: [
    {
      id: "on",
      label: `${label} chosen`,
      set: { pictureMode: "phone", phone: "wireless", source },
      actions: ["toggle"],
    },
  ],
  minutes: 1.5,
});

/** Rear camera out of the phone picture, with the given action before it. */
export function rearViewPhone(actions: string[]): FunctionSpec {
  return {
    id: "rearViewPhone",
    name: "Rear camera out of the phone picture",
    say: "From the phone picture select reverse; the rear picture appears within two seconds, the phone picture returns after.",
    who: "law",
    observe: [{ at: "screen.glass.picture", where: { picture: "rear camera" } }],
    situations: [
      { id: "phone", label: "phone picture", set: { pictureMode: "phone", phone: "wireless", selector: "R" }, actions },
    ],
    withinMs: 2000,
    minutes: 1,
    caution: REVERSE_CAUTION,
  };
}

export const material = (say: string): KitNeed => ({ kind: "material", say });
export const tool = (say: string): KitNeed => ({ kind: "tool", say });

export const REMEMBERS_CABLE: AssumedState = {
  id: "remembersCable",
  title: "The phone remembers the cable",
  cause: "A phone first used by cable keeps the wired profile and refuses wireless.",
  remedy: "Restart the phone, forget the module, pair by wireless again.",
  normal: true,
  where: { phone: "wireless" },
  set: { phone: "rememberedWired" },
  weight: 4,
  minutes: 2,
};

export const SHORT_HOLD = (press: string): AssumedState => ({
  id: "shortHold",
  title: "The toggle key was let go too early",
  cause: "Released before two seconds the key does nothing.",
  remedy: "Hold it while counting one thousand, two thousand, three thousand.",
  normal: true,
  where: { pressed: press },
  set: { heldS: 1 },
  weight: 5,
  minutes: 0.5,
});
