import { z } from "zod";
import type { FunctionSpec, Link, Monitor, Part } from "../../../core/model/types";
import { figuresSchema } from "../../schema/figures";
import { type Pins, type Plug, plugSchema } from "../vocabulary";

/** Features of a radio as a person can see or try them. */
export const radioFeatures = z.strictObject({
  name: z.string().trim().min(1).max(120).describe("Name, for example Radio R2"),
  screen: z
    .strictObject({
      place: z.enum(["separate", "behind one front", "upper of two"]).describe("Where the screen is"),
      format: z
        .string()
        .regex(/^\d{3,4}x\d{3,4}$/, "pixels, as 1024x600")
        .describe("Pixels"),
      plug: plugSchema.describe("Plug of the picture link"),
      reversible: z.boolean().default(false).describe("The plug goes in both ways round"),
      touch: z.boolean().describe("Touch"),
      figures: figuresSchema.optional().describe("Size of the picture"),
    })
    .optional()
    .describe("Screen; none for a radio with a text line"),
  lineIn: z.boolean().default(false).describe("Line input"),
  bluetooth: z.boolean().default(false).describe("Hands-free and Bluetooth audio"),
  usb: z.boolean().default(false).describe("USB socket that plays music"),
  videoIn: z.boolean().default(false).describe("Video input"),
  navigation: z.boolean().default(false).describe("Navigation"),
  satellite: z.boolean().default(false).describe("Satellite radio"),
  phoneKey: z.boolean().default(false).describe("Phone key on the front"),
  amplifier: z.enum(["standard", "premium"]).default("standard").describe("Amplifier"),
  mirroring: z.enum(["no", "after update"]).default("no").describe("Mirroring of its own"),
  exchangesSides: z.boolean().default(false).describe("Some firmware exchanges the loudspeakers left and right"),
  frontKeys: z.boolean().default(false).describe("Keys on its front by a ribbon of their own"),
  keyInput: z.boolean().default(false).describe("Input for wheel keys"),
  watchesTweeters: z.boolean().default(false).describe("Watches tweeters until it is coded otherwise"),
  sided: z.boolean().default(false).describe("Menu for left or right drive by a coded word"),
  knob: z.boolean().default(true).describe("Volume knob"),
  knobInput: z.boolean().default(false).describe("Input for a separate volume knob"),
  speechIn: z.boolean().default(false).describe("Input for the speech of a navigation module"),
  coded: z.enum(["as built", "by programming plug"]).default("as built").describe("Coding to the car"),
  /** Must be coded into the gateway before it answers. */
  listed: z.enum(["as built", "to be listed"]).default("as built").describe("Gateway list"),
});
export type RadioFeatures = z.infer<typeof radioFeatures>;

/** What the car gives the radio. */
export interface RadioPlace {
  plug: Plug;
  pins: Pins;
  key: "bus" | "wire";
  sound: "radio" | "ring";
  rearCamera: boolean;
  wheelKeys: boolean;
  satelliteAntenna: boolean;
  /** The plug carries the bus pair. */
  bus: boolean;
  /** One end of the bus pair lies in the radio. */
  endsBus: boolean;
  /** The plug carries a reverse wire, as with a manual gearbox. */
  reverseWire: boolean;
  /** The radio closes the loop of the emergency call. */
  emergencyCall: boolean;
  /** A radio that watches tweeters comes coded to do so. */
  watchesTweeters: boolean;
}

export interface BuiltRadio {
  monitors: Monitor[];
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
}
