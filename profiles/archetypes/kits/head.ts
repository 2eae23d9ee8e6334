import { z } from "zod";
import { noKit } from "../../../core/job/blank";
import type { KitProfile } from "../../../core/model/profile";
import { pinsSchema, plugSchema, USUAL_PINS } from "../vocabulary";

export const words = z.string().trim().min(1).max(600);

/** What every kit leaflet says first. */
export const kitHead = {
  title: words.describe("Name of the kit"),
  // Behind the name from which it follows.
  id: z
    .string()
    .regex(/^[a-z0-9-]+$/, "small letters, digits and - only")
    .describe("Identifier"),
  maker: words.describe("Maker"),
  price: z.number().min(0).describe("Price"),
  fitMinutes: z
    .strictObject({ low: z.number().min(0), likely: z.number().min(0), high: z.number().min(0) })
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
    ...noKit(),
    id: l.id,
    title: l.title,
    sourceNote: l.sourceNote,
    maker: l.maker,
    work,
    price: l.price,
    fitMinutes: l.fitMinutes,
    // Builders add to them; the leaflet stays as it was answered.
    box: [...l.box],
    card: [...l.card],
  };
}
