import { KIND_NAMES } from "./kinds";
import type { Condition, Contact, ContactRef, Part, Port, SituationField, System } from "./types";

/** Finds the part, port and contact behind a reference; undefined members where the system has none. */
export function locate(system: System, ref: ContactRef): { part?: Part; port?: Port; contact?: Contact } {
  const [partId, portId, contactId] = ref.split(".");
  const part = system.parts.find((p) => p.id === partId);
  const port = part?.ports.find((p) => p.id === portId);
  return { part, port, contact: port?.contacts.find((c) => c.id === contactId) };
}

/** A contact in words, for example `Radio, main plug, contact 9 (CAN bus)`. */
export function describeContact(system: System, ref: ContactRef): string {
  const { part, port, contact } = locate(system, ref);
  if (!part || !port || !contact) return ref;
  if (port.inside) return `${part.name}, ${contact.label ?? port.label}`;
  const name = contactWords(contact);
  return `${part.name}, ${port.label}, ${stampOf(contact) ? `contact ${contact.id} (${name})` : name}`;
}

/** What a contact is for, in words. */
export function contactWords({ label, kind }: Pick<Contact, "label" | "kind">): string {
  return label ?? KIND_NAMES[kind];
}

/** A contact in a list, for example `9 CAN bus`; what no plug has stamped on it is called by what it is for. */
export function shortContact(contact: Pick<Contact, "id" | "label" | "kind">): string {
  return `${stampOf(contact)} ${contactWords(contact)}`.trimStart();
}

/** What is stamped on the plug at a contact: numbers and capitals; empty where the identifier is the document's own. */
export function stampOf({ id }: Pick<Contact, "id">): string {
  return /^[A-Z0-9]/.test(id) ? id : "";
}

/** A port in words, for example `Radio, main plug`. */
export function describePort(system: System, ref: string): string {
  const [partId, portId] = ref.split(".");
  const part = system.parts.find((p) => p.id === partId);
  const port = part?.ports.find((p) => p.id === portId);
  return part && port ? `${part.name}, ${port.label}` : ref;
}

const FIELD_WORDS: Record<string, (value: string) => string> = {
  key: (v) => `the key is ${v}`,
  selector: (v) => `the selector is in ${v}`,
  parkingBrake: (v) => (v === "true" ? "the parking brake is set" : "the parking brake is off"),
  lights: (v) => (v === "true" ? "the lights are on" : "the lights are off"),
  source: (v) => `the radio plays ${SOURCE_NAMES[v] ?? v}`,
  pictureMode: (v) => `the screen shows the ${v} picture`,
  phone: (v) => PHONE_NAMES[v] ?? `the phone is ${v}`,
  paired: (v) => (v === "true" ? "the phone is paired with the car" : "the phone is not paired with the car"),
  pressed: (v) => (v ? `“${v}” is pressed` : "nothing is pressed"),
  speedKmh: (v) => `the car drives at ${v} km/h`,
  heldS: (v) => `the key is held for ${v} s`,
  leftReverse: (v) => (v === "true" ? "reverse was left a moment ago" : "reverse was not just left"),
};

const LIMIT_WORDS: Readonly<Record<string, (limit: string) => string>> = {
  speedKmh: (limit) => `the car drives at ${limit} km/h`,
  heldS: (limit) => `the key is held for ${limit} s`,
};

export const SOURCE_NAMES: Readonly<Record<string, string>> = {
  radio: "the tuner",
  lineIn: "the line input",
  bluetooth: "Bluetooth audio",
  usb: "USB",
};

const PHONE_NAMES: Readonly<Record<string, string>> = {
  none: "no phone is connected",
  wired: "the phone is connected by cable",
  wireless: "the phone is connected by wireless",
  rememberedWired: "the phone remembers the cable and refuses wireless",
};

/** One value of the situation as a clause, for example `the selector is in R`. */
export function situationWords(field: string, value: string | number | boolean): string {
  return FIELD_WORDS[field]?.(String(value)) ?? `${field} is ${value}`;
}

/** A condition of a part as a clause: what it asks for. */
export function conditionWords(system: System, part: Part, c: Condition): string {
  if ("all" in c) return c.all.map((x) => conditionWords(system, part, x)).join(" and ");
  if ("any" in c) return c.any.map((x) => conditionWords(system, part, x)).join(" or ");
  if ("not" in c) return `not (${conditionWords(system, part, c.not)})`;
  if ("situation" in c) {
    if ("is" in c) return c.is.map((v) => situationWords(c.situation, v)).join(" or ");
    const limit = "atMost" in c ? `at most ${c.atMost}` : `at least ${c.atLeast}`;
    return LIMIT_WORDS[c.situation]?.(limit) ?? `${c.situation} is ${limit}`;
  }
  if ("setting" in c) {
    const setting = part.settings?.find((s) => s.id === c.setting);
    return `${setting?.label ?? c.setting} of ${part.name} is ${c.is.join(" or ")}`;
  }
  if ("hears" in c) return `${part.name} hears the message “${c.hears}” on the bus`;
  const need = part.needs?.find((n) => n.at === c.present);
  return need
    ? `${part.name} gets ${need.say}`
    : `a signal arrives at ${describeContact(system, `${part.id}.${c.present}`)}`;
}

/** How many contacts a plug has room for, in words. */
export function waysWords(ways: number): string {
  return ways === 1 ? "1 way" : `${ways} ways`;
}

/** “1 panel”, “5 panels”. */
export function countWords(n: number, one: string, many = `${one}s`): string {
  return `${n} ${n === 1 ? one : many}`;
}

/** A sentence with a small first letter, to stand inside another. */
export function lowerFirst(text: string): string {
  // An abbreviation stays as it is written: USB, LED, T20.
  if (/^[A-Z][A-Z0-9]/.test(text)) return text;
  return text.charAt(0).toLowerCase() + text.slice(1);
}

/** A text with a capital first letter, to begin a sentence. */
export function upperFirst(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** `3 to 20 s`, `2 to 15 min`. */
export function spanWords({ min, max }: { min: number; max: number }): string {
  const inMinutes = min >= 60;
  const [low, high] = inMinutes ? [min / 60, max / 60] : [min, max];
  const unit = inMinutes ? "min" : "s";
  return low === high ? `${Math.round(low)} ${unit}` : `${Math.round(low)} to ${Math.round(high)} ${unit}`;
}

const YES_NO = ["true", "false"];

/** What a field of the situation can be; null for numbers and free words. */
export const SITUATION_VALUES: Readonly<Record<SituationField, readonly string[] | null>> = {
  key: ["off", "accessory", "on", "cranking", "running"],
  selector: ["P", "R", "N", "D"],
  parkingBrake: YES_NO,
  lights: YES_NO,
  source: ["radio", "lineIn", "bluetooth", "usb"],
  pictureMode: ["factory", "phone"],
  speedKmh: null,
  phone: ["none", "wired", "wireless", "rememberedWired"],
  paired: YES_NO,
  pressed: null,
  heldS: null,
  leftReverse: YES_NO,
};

const list = new Intl.ListFormat("en-GB");

/** “rear camera, lamp and touch”. */
export function allOf(names: Iterable<string>): string {
  return list.format(names);
}
