/** What the leaflet of an interface says. */

import { z } from "zod";
import { figuresSchema } from "../../../schema/figures";
import { type Contradiction, naming, pinContradictions } from "../../contradictions";
import { plugSchema } from "../../vocabulary";
import { harnessShape, kitHead, words } from "../head";
import { phonesLeaflet } from "../phones";
import { menuLeaflet } from "./menu";
import { openingLeaflet } from "./opening";

const place = z.int().min(1).max(10).optional();

/** What an interface is built like: its words of work, and the unit of the car in which its board sits. */
const BUILDS = {
  "one box": { work: "Interface between a separate radio and screen", unit: null },
  "board inside the radio": { work: "Board fitted inside the radio", unit: "radio" },
  "board behind the upper screen": { work: "Board behind the upper of two screens", unit: "screen" },
  "two boxes": { work: "Two-box interface with a digital picture lead", unit: null },
} as const;
const buildNames = Object.keys(BUILDS) as (keyof typeof BUILDS)[];

export const buildOf = (l: { build: keyof typeof BUILDS }) => BUILDS[l.build];

const said = z.strictObject({
  archetype: z.literal("interface"),
  ...kitHead,
  build: z.enum(buildNames).describe("Build"),
  ...harnessShape,
  ring: z.boolean().default(false).describe("The car has an optical ring: contacts are moved"),
  pictureLink: plugSchema.describe("Plug of the picture link"),
  reversible: z.boolean().default(false).describe("The picture plug goes in both ways round"),
  mirroring: z.boolean().default(true).describe("Shows the phone"),
  formats: z
    .array(z.string().regex(/^\d{3,4}x\d{3,4}$/))
    .min(1)
    .max(4)
    .describe("Screen formats, in the order of the switch table"),
  touch: z.boolean().describe("Reads the touch panel"),
  soundPaths: z.array(z.enum(["line", "carBluetooth", "usbSound"])).describe("Sound paths"),
  deletesPairing: z.boolean().default(false).describe("With the line input the pairing with the car is deleted"),
  phones: phonesLeaflet.optional().describe("Phones, as far as the leaflet speaks of them"),
  frontCamera: z.boolean().describe("Front camera as an option"),
  rearCamera: z.boolean().describe("Added rear camera as an option"),
  cameraFigures: figuresSchema.optional().describe("Lens and picture of its cameras"),
  switches: z
    .strictObject({
      count: z.int().min(4).max(10).describe("Switches in the bank"),
      format: z.tuple([z.int(), z.int()]).default([1, 2]).describe("The two switches of the format"),
      front: place.describe("Front camera"),
      manualFront: place.describe("Front camera by hand"),
      rear: place.describe("Added rear camera"),
      touch: place.describe("Touch reader"),
      olderKeys: place.describe("Older wheel key messages"),
    })
    .describe("Switch table"),
  menu: z.array(menuLeaflet).max(7).default([]).describe("Settings in its own menu, in their order"),
  holdS: z
    .strictObject({
      min: z.number().min(0.5).max(20).describe("At least, seconds"),
      max: z.number().min(1).max(30).describe("At most, seconds"),
    })
    .default({ min: 2, max: 4 })
    .describe("How long the back key is held to change the picture"),
  blank: z.boolean().default(false).describe("Comes blank and is loaded from a computer"),
  opening: openingLeaflet.optional().describe("How the unit is opened, for a board inside it"),
  harness: z.boolean().default(true).describe("T-harness at the radio plug; without it a power lead of its own"),
  keyReader: z.enum(["bus", "key board"]).default("bus").describe("Hears the key for the picture by"),
  takesKeys: z.boolean().default(false).describe("The key board keeps the keys from the radio"),
  splitter: z.boolean().default(false).describe("Takes its supply from a splitter at the screen plug"),
  hole: z
    .strictObject({
      say: words.describe("What would be drilled"),
      instead: words.describe("The way without drilling"),
    })
    .optional()
    .describe("Hole for a lead, with the way around it"),
  cameraHandle: z.boolean().default(false).describe("The added rear camera sits in a new tailgate handle"),
  handleLead: z.enum(["not said", "plug", "two wires"]).default("not said").describe("Lead of the old handle"),
  firmwareFloor: z.string().optional().describe("Lowest firmware of the radio"),
  wires: z
    .array(z.strictObject({ job: z.enum(["cameraFeed", "reverseTrigger"]), base: words, tracer: words.optional() }))
    .default([])
    .describe("Colours of the loose wires"),
});
export type InterfaceLeaflet = z.infer<typeof said>;

/** What a leaflet cannot say at once, at the answer to change. */
function* contradictions(l: InterfaceLeaflet): Generator<Contradiction> {
  yield* switchContradictions(l.switches);
  yield* pinContradictions(l.pins, l.ring);
  if (!l.harness && l.keyReader === "bus")
    yield [["keyReader"], "Without the harness the module is on no bus: a key board hears the key."];
  if (!l.harness && l.splitter) yield [["splitter"], "The splitter is a part of the harness."];
  const menu = l.menu.some((m) => m.entry === "cameraType");
  if (l.rearCamera && l.build === "two boxes")
    yield [["rearCamera"], "Two boxes are known without an added rear camera. Enter it in the document afterwards."];
  else if (l.rearCamera && !l.switches.rear && !menu)
    yield [["switches", "rear"], "Nothing tells the module of the added rear camera: its switch, or the menu entry."];
  if (l.switches.manualFront && l.build === "two boxes")
    yield [["switches", "manualFront"], "Two boxes are known with a front camera after reverse only."];
  const path = l.menu.findIndex((m) => m.entry === "soundPath");
  if (path >= 0 && !l.mirroring)
    yield [["menu", path, "entry"], "Without the phone on the screen there is no sound path."];
  if (l.frontCamera && !l.switches.front && !l.switches.manualFront)
    yield [["switches", "front"], "Name its switch: without one the screen waits for a camera that is not fitted."];
}

function* switchContradictions({ count, format, ...roles }: InterfaceLeaflet["switches"]): Generator<Contradiction> {
  const taken = new Map<number, string>();
  const all: [(string | number)[], string, number | undefined][] = [
    [["format", 0], "the format", format[0]],
    [["format", 1], "the format", format[1]],
    ...Object.entries(roles).map(([role, n]): [string[], string, number | undefined] => [
      [role],
      ROLES[role] ?? role,
      n,
    ]),
  ];
  for (const [at, job, n] of all) {
    if (n === undefined) continue;
    const other = taken.get(n);
    if (n < 1 || n > count) yield [["switches", ...at], `There are switches 1 to ${count}.`];
    else if (other) yield [["switches", ...at], `Switch ${n} is the one for ${other} already.`];
    taken.set(n, job);
  }
}

const ROLES: Readonly<Record<string, string>> = {
  front: "the front camera",
  manualFront: "the front camera by hand",
  rear: "the added rear camera",
  touch: "the touch reader",
  olderKeys: "the older wheel keys",
};

export const interfaceLeaflet = said.superRefine(naming(contradictions));
