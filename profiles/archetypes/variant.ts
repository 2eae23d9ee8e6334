import { z } from "zod";
import type { CarProfile, VariantProfile } from "../../core/model/profile";
import { firmwareSchema } from "../schema";
import { pinsOf } from "./car/pins";
import { buildRadio } from "./radio";
import { radioDash } from "./radio/dash";
import { type RadioPlace, radioFeatures } from "./radio/features";
import { phone } from "./radio/screen";

const words = z.string().trim().min(1).max(600);

/** What a person writes down about a radio variant of a car that is already in the library. */
export const variantLeaflet = z.strictObject({
  archetype: z.literal("variant"),
  id: z.string().regex(/^[a-z0-9-]+$/),
  car: z.string(),
  title: words,
  features: radioFeatures,
  identifyingFeatures: z.array(words),
  answers: z.record(z.string(), z.array(z.string())).default({}),
  share: z.number().positive().default(1),
  firmware: firmwareSchema.optional(),
  sourceNote: words.default("Invented for the demonstration."),
});
export type VariantLeaflet = z.infer<typeof variantLeaflet>;

/** Builds a radio variant for its car: plugs and contacts follow from the loom. */
export function buildVariant(l: VariantLeaflet, car: CarProfile): VariantProfile {
  const built = buildRadio(l.features, placeOf(car));
  return {
    document: "variant",
    id: l.id,
    version: 1,
    title: l.title,
    sourceNote: l.sourceNote,
    car: l.car,
    answers: l.answers,
    share: l.share,
    firmware: l.firmware,
    identifyingFeatures: l.identifyingFeatures,
    dash: radioDash(l.features),
    parts: [...built.parts, phone()],
    links: [
      ...built.links,
      ...(l.features.bluetooth ? [{ id: "phone-car", a: "phone.bluetooth", b: "radio.bluetooth", air: true }] : []),
    ],
    functions: built.functions,
    monitors: built.monitors,
  };
}

/** What a car gives its radio, read from its document. */
function placeOf(car: CarProfile): RadioPlace {
  const part = (id: string) => car.parts.find((p) => p.id === id);
  const plug = part("loom")?.ports.find((p) => p.id === "radio");
  const { gender: _, reversible: __, ...housing } = plug?.connector ?? { family: "unknown", ways: 1, gender: "male" };
  return {
    plug: housing,
    pins: pinsOf(car),
    key: plug?.contacts.some((c) => c.kind === "accessory") ? "wire" : "bus",
    sound: plug?.contacts.some((c) => c.kind === "opticalRing") ? "ring" : "radio",
    emergencyCall: plugAt(part("loom"), "emergency"),
    watchesTweeters: Boolean(part("tweeters")),
    rearCamera: Boolean(part("rearCamera")),
    wheelKeys: Boolean(part("wheelKeys")),
    satelliteAntenna: Boolean(part("satelliteAntenna")),
    reverseWire: plug?.contacts.some((c) => c.kind === "reverse") ?? false,
    bus: plug?.contacts.some((c) => c.kind === "can") ?? false,
    endsBus: plug?.contacts.some((c) => c.kind === "can") ?? false,
  };
}

function plugAt(part: CarProfile["parts"][number] | undefined, id: string): boolean {
  return part?.ports.some((p) => p.id === id) ?? false;
}
