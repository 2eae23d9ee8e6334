/** What the leaflet of a radio swap says. */
import { z } from "zod";
import { type Contradiction, naming, pinContradictions } from "../../contradictions";
import { radioFeatures } from "../../radio/features";
import { pinsSchema, plugSchema, USUAL_PINS } from "../../vocabulary";
import { harnessShape, kitHead, words } from "../head";

const seconds = (min: number, max: number) =>
  z.strictObject({ min: z.number().min(0).default(min), max: z.number().min(0).default(max) }).prefault({});

/** The usual ritual; waits and lamps as is common practice. */
const programmingPlug = z.strictObject({
  setting: z.literal("radio.coded").default("radio.coded"),
  waitS: seconds(10, 15).describe("Seconds between ignition and plugging in"),
  writesS: seconds(20, 120).describe("Seconds that it writes"),
  writing: words.default("blinks").describe("Lamp while it writes"),
  finished: words.default("steady green").describe("Lamp when it may come out"),
  refused: words.default("steady red").describe("Lamp when it refuses"),
  restS: z.number().min(0).max(600).default(30).describe("Seconds off afterwards"),
});

const said = z.strictObject({
  archetype: z.literal("radioSwap"),
  ...kitHead,
  from: z.enum(["higher level", "sister car", "aftermarket", "bigger module and screen"]).describe("What comes in"),
  features: radioFeatures.describe("The new radio"),
  ...harnessShape,
  newPlug: plugSchema.optional().describe("Plug of the new radio, where it differs"),
  newPins: pinsSchema.default(USUAL_PINS).describe("Contacts of the new plug"),
  oldScreen: z.boolean().default(false).describe("The old screen and its lead leave the car"),
  climateZones: z.int().min(0).max(2).default(0).describe("Climate zones of the new panel, 0 when the panel stays"),
  transfers: z
    .array(words)
    .default(["hazard switch", "vents", "lighter socket"])
    .describe("What moves from the old panel to the new bezel"),
  blanks: z.array(words).default([]).describe("Openings that get a blank"),
  bezel: words.optional().describe("Bezel or frame that this radio needs"),
  consequence: words.optional().describe("What the customer is told before"),
  programmingPlug: programmingPlug.prefault({}).describe("How its programming plug goes, where it has one"),
  keepsCamera: z.boolean().default(false).describe("Takes the factory camera"),
  wheelKeys: z.boolean().default(true).describe("Understands the wheel keys"),
  satellite: z.boolean().default(false).describe("The car has a satellite antenna"),
});
export type RadioSwapLeaflet = z.infer<typeof said>;

/** What a leaflet cannot say at once, at the answer to change. */
function* contradictions(l: RadioSwapLeaflet): Generator<Contradiction> {
  yield* pinContradictions(l.pins, false);
  if (l.newPlug) yield* pinContradictions(l.newPins, false, "newPins");
  const adapted = l.from === "sister car" || l.from === "aftermarket";
  if (adapted && !l.newPlug)
    yield [["newPlug"], "This radio has another plug than the car: name it, an adapter lead goes between."];
  if (l.from === "higher level" && l.newPlug)
    yield [["newPlug"], "A radio of the same car takes the car's own plug: leave it out."];
  if (l.features.satellite && !l.satellite)
    yield [["satellite"], "A radio with satellite reception needs the antenna of the car."];
  if (l.features.keyInput && l.from !== "aftermarket")
    yield [["features", "keyInput"], "Only an aftermarket radio takes the wheel keys by an input of its own."];
}

export const radioSwapLeaflet = said.superRefine(naming(contradictions));
