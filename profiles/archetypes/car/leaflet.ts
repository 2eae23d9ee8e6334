/** What the leaflet of a car says. */
import { z } from "zod";
import { questionSchema } from "../../schema";
import { figuresSchema } from "../../schema/figures";
import { naming, pinContradictions } from "../contradictions";
import { pinsSchema, plugSchema, USUAL_PINS } from "../vocabulary";

const words = z.string().trim().min(1).max(600);

/** What a person writes down about a car; the document with its parts and loom follows from it. */
const said = z.strictObject({
  archetype: z.literal("car"),
  id: z.string().regex(/^[a-z0-9-]+$/),
  maker: words,
  model: words,
  years: z.strictObject({ from: z.int(), to: z.int() }),
  driveSide: z.enum(["left", "right"]),
  gearbox: z.enum(["automatic", "manual"]),
  countries: z.array(z.string()),
  radioPlug: plugSchema,
  pins: pinsSchema.default(USUAL_PINS),
  /** How the radio learns that the key is on. */
  key: z.enum(["bus", "wire"]).default("bus"),
  /** A plain old radio plug has no bus; then the pair is tapped at the body computer. */
  busAtRadio: z.boolean().default(true),
  /** Where the loudspeakers hang: on the radio, or on an amplifier on the optical ring. */
  sound: z.enum(["radio", "ring"]).default("radio"),
  rearCamera: z.boolean(),
  wheelKeys: z.boolean().default(true),
  climateZones: z.int().min(0).max(2).default(0),
  satelliteAntenna: z.boolean().default(false),
  /** A hands-free module of its own under the console: the microphone goes through it to the radio. */
  handsFreeModule: z.boolean().default(false),
  /** Tweeters beside the front loudspeakers. */
  tweeters: z.boolean().default(false),
  /** The radio takes part in the emergency call: a car that misses it stores a fault. */
  emergencyCall: z.boolean().default(false),
  figures: figuresSchema.optional(),
  /** Of the rear camera. */
  cameraFigures: figuresSchema.optional(),
  identification: z.array(z.strictObject({ pattern: z.string(), says: words })),
  questions: z.array(questionSchema).default([]),
  sourceNote: words.default("Invented for the demonstration."),
});
export type CarLeaflet = z.infer<typeof said>;

export const carLeaflet = said.superRefine(naming((l) => pinContradictions(l.pins, l.sound === "ring")));
