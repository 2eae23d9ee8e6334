/**
 * The few words from which archetypes build documents: contacts, plugs, leads, messages, loudspeaker channels.
 * Part and port identifiers used here are the common names that let any kit meet any car (docs/guide/profiles.md).
 */
import { z } from "zod";
import { SPEAKER_BLOCK, speakerContacts } from "../../core/library/standard-plugs";
import type { SignalKind } from "../../core/model/kinds";
import type {
  Attributes,
  Condition,
  Connector,
  Contact,
  FunctionSpec,
  JointKind,
  Link,
  Need,
  Part,
  Port,
} from "../../core/model/types";

export { SPEAKER_BLOCK, speakerContacts };

/** A connector half as a leaflet names it. */
export const plugSchema = z.strictObject({
  family: z.string().trim().min(1).max(60).describe("Family of the housing"),
  ways: z.int().min(1).max(200).describe("Ways"),
  keying: z.string().trim().max(40).optional().describe("Code letter"),
  colour: z.string().trim().max(40).optional().describe("Colour of the housing"),
  lock: z.enum(["tongue", "lever", "slide", "screw", "none"]).optional().describe("Lock"),
});
export type Plug = z.infer<typeof plugSchema>;

/** Contacts of the radio's main plug by function; the speaker block is 1 to 8 as is common practice. */
export const pinsSchema = z.strictObject({
  high: z.string().max(4).default("9").describe("Bus high"),
  low: z.string().max(4).default("10").describe("Bus low"),
  mic: z.string().max(4).default("11").describe("Microphone"),
  battery: z.string().max(4).default("12").describe("Battery feed"),
  ground: z.string().max(4).default("13").describe("Ground"),
  accessory: z.string().max(4).default("14").describe("Accessory feed"),
  reverse: z.string().max(4).default("15").describe("Reverse wire of a manual gearbox"),
});
export type Pins = z.infer<typeof pinsSchema>;
export const USUAL_PINS: Pins = pinsSchema.parse({});

export const MALE = "male" as const;
export const FEMALE = "female" as const;

/** The half of a plug with the given gender. */
export function half(plug: Plug, gender: Connector["gender"], more: Partial<Connector> = {}): Connector {
  return { ...plug, gender, ...more };
}

function contact(id: string, kind: SignalKind, direction: Contact["direction"], label?: string): Contact {
  return label ? { id, kind, direction, label } : { id, kind, direction };
}

export const wire = (id: string, kind: SignalKind, label?: string) => contact(id, kind, "wire", label);
export const takes = (id: string, kind: SignalKind, label?: string) => contact(id, kind, "in", label);
export const gives = (id: string, kind: SignalKind, label?: string) => contact(id, kind, "out", label);

export function port(id: string, label: string, connector: Connector | null, contacts: Contact[]): Port {
  return connector ? { id, label, connector, contacts } : { id, label, contacts };
}

/** The end of a lead that has no housing: its wires are joined to those at the far end, or go into cavities there. */
export function bare(id: string, label: string, joint: JointKind, contacts: Contact[]): Port {
  return { id, label, joint, contacts };
}

/** A place inside a part where a person notices what arrives. */
export function inside(id: string, label: string, contacts: Contact[]): Port {
  return { id, label, inside: true, contacts };
}

/** A lead whose ends share contact identifiers; every shared one is a conductor. */
export function lead(id: string, name: string, lengthM: number, ...ends: [Port, Port, ...Port[]]): Part {
  const ids = [...new Set(ends.flatMap((e) => e.contacts.map((c) => c.id)))];
  const joins = ids
    .map((c) => ({ contacts: ends.filter((e) => e.contacts.some((x) => x.id === c)).map((e) => `${e.id}.${c}`) }))
    .filter((j) => j.contacts.length > 1);
  return { id, name, type: "lead", lengthM, reachMinutes: 1, ports: ends, joins };
}

export function link(id: string, a: string, b: string): Link {
  return { id, a, b };
}

/** Places and attributes at which sound of a source is heard from all four loudspeakers. */
export function fourSpeakers(sound: string): FunctionSpec["observe"] {
  return (["LF", "RF", "LR", "RR"] as const).map((channel) => ({
    at: `speakers.cones.${channel}`,
    where: { sound, channel },
  }));
}

export const all = (...conditions: Condition[]): Condition =>
  conditions.length === 1 && conditions[0] ? conditions[0] : { all: conditions };
export const not = (c: Condition): Condition => ({ not: c });
export const hears = (message: string, bus = "car"): Condition => ({ hears: message, bus });
export const has = (at: string, where?: Attributes): Condition => (where ? { present: at, where } : { present: at });
export const set = (setting: string, ...is: string[]): Condition => ({ setting, is });
export const during = (
  situation: "pictureMode" | "source" | "pressed" | "key" | "selector",
  ...is: string[]
): Condition => ({
  situation,
  is,
});
export const IN_REVERSE = hears("reverse");

/** Battery feed, ground and the key message on both bus wires. */
export function busNeeds(portId: string, pins: Pick<Pins, "battery" | "ground" | "high" | "low">): Need[] {
  return [
    ...supplyNeeds(portId, pins),
    { at: `${portId}.${pins.high}`, where: { message: "keyOn", line: "high" }, say: "the key message on bus high" },
    { at: `${portId}.${pins.low}`, where: { message: "keyOn", line: "low" }, say: "the key message on bus low" },
  ];
}

export function supplyNeeds(portId: string, pins: Pick<Pins, "battery" | "ground">): Need[] {
  return [
    { at: `${portId}.${pins.battery}`, say: "battery feed" },
    { at: `${portId}.${pins.ground}`, say: "ground" },
  ];
}

/** Caution of every try with the selector in reverse. */
export const REVERSE_CAUTION = "Foot on the brake, parking brake set, nobody in front of or behind the car.";
