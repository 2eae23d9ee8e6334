/**
 * The vocabulary of the behaviour model. Everything about a particular car or kit is data in these shapes;
 * `profiles/` checks documents against them before they reach `core/`.
 */
import type { BackDrawing } from "../drawing/drawing";
import type { Figures } from "./figures";
import type { SignalKind } from "./kinds";
import type { Cavities } from "./mating";
import type { BreakAt, InsteadId } from "./sight";

/** `part.port.contact`, for example `radio.main.9`. Identifiers hold letters, digits, `-`, `+` and `_`, no dots. */
export type ContactRef = string;
/** `part.port`, for example `radio.main`. */
export type PortRef = string;

export type KeyState = "off" | "accessory" | "on" | "cranking" | "running";
export type Selector = "P" | "R" | "N" | "D";

/** The state of the car and its people in which something is tried. */
export interface Situation {
  key: KeyState;
  selector: Selector;
  parkingBrake: boolean;
  lights: boolean;
  /** What the radio plays. */
  source: "radio" | "lineIn" | "bluetooth" | "usb";
  pictureMode: "factory" | "phone";
  speedKmh: number;
  phone: "none" | "wired" | "wireless" | "rememberedWired";
  /** The phone is paired with the car's own hands-free. */
  paired: boolean;
  /** Key or touch field being pressed, empty when none. */
  pressed: string;
  /** For how long it is held, in seconds. */
  heldS: number;
  /** Reverse was left a moment ago and the car creeps forward. */
  leftReverse: boolean;
}
export type SituationField = keyof Situation;

/** Properties of a signal: picture content and format, channel, message name, strength... */
export type Attributes = Readonly<Record<string, string>>;

export type Condition =
  | { all: Condition[] }
  | { any: Condition[] }
  | { not: Condition }
  | { situation: SituationField; is: (string | number | boolean)[] }
  | { situation: SituationField; atMost: number }
  | { situation: SituationField; atLeast: number }
  /** A setting of the part that owns the route. */
  | { setting: string; is: string[] }
  /** A signal arrives at a contact (`port.contact`) of the own part. */
  | { present: string; where?: Attributes }
  /** A message arrives on both wires of a bus of the own part, the right way round. */
  | { hears: string; bus: string };

export interface Contact {
  id: string;
  kind: SignalKind;
  /** `wire` conducts either way: a lead, a splice, a bus. */
  direction: "in" | "out" | "wire";
  label?: string;
  /** As the wire looks: base colour and optional tracer, in words. */
  wire?: { base: string; tracer?: string };
}

export interface Port {
  id: string;
  label: string;
  /** Absent for places inside a part (the glass of a screen, the loudspeaker cone). */
  connector?: Connector;
  /** An end without a housing, and what its wires are joined to at the far end; it has no connector. */
  joint?: JointKind;
  /** Inside ports show to people what arrives on them. */
  inside?: boolean;
  contacts: Contact[];
}

export interface Connector {
  family: string;
  ways: number;
  gender: "male" | "female";
  /** Code letter or housing shape; only equal keyings mate. Empty when the family has one keying. */
  keying?: string;
  colour?: string;
  /** Can be pushed in both ways round. */
  reversible?: boolean;
  /** Rows of cavities; without it as such plugs usually have them. */
  rows?: number;
  /** What holds it, and how it opens where the lock alone does not say it. */
  lock?: LockKind;
  opens?: string;
}

/** `wire`: joined to the wires there, whose plug stays in; `cavity`: contacts that go into cavities of the plug there. */
export type JointKind = "wire" | "cavity";

export type LockKind = "tongue" | "lever" | "slide" | "screw" | "none";

/** Something a part needs at a contact to work at all. `where` narrows it to a message or attribute. */
export interface Need {
  at: string;
  where?: Attributes;
  say: string;
}

/** A conducting connection inside a part, both ways, without any condition: a wire, a splice, a straight-through lead. */
export interface Join {
  contacts: string[];
  /** Cross-section of the wire. */
  mm2?: number;
  /** A fuse of this rating sits in it. */
  fuseA?: number;
}

export interface Source {
  id: string;
  /** `port.contact`s of the own part; the signal starts at each of them. */
  at: string[];
  attributes?: Attributes;
  when?: Condition;
  settleMs?: number;
}

/** A message on a bus of the own part; sent on both wires. */
export interface Message {
  bus: string;
  name: string;
  when?: Condition;
}

export interface Route {
  id: string;
  from: string;
  to: string;
  when?: Condition;
  /** Attributes overwritten on the way. */
  set?: Attributes;
  settleMs?: number;
}

export interface Setting {
  id: string;
  label: string;
  values: string[];
  initial: string;
  /**
   * Not set by hand. `surface`: the first value on plastic, the second on metal, by where the part lies. `messages`: by
   * the data of the car that are loaded (core/bus/translation/told.ts).
   */
  follows?: "surface" | "messages";
}

export interface BusPair {
  id: string;
  high: string;
  low: string;
  /** Resistance across the pair inside the part. */
  terminatorOhm?: number;
  /** Bit rate in kbit/s. */
  kbit?: number;
}

export interface Part {
  id: string;
  name: string;
  /** A lead only conducts; a device needs supply and decides. */
  type: "device" | "lead" | "loom";
  lengthM?: number;
  /** Its bus wires are a twisted pair. */
  twisted?: boolean;
  ports: Port[];
  needs?: Need[];
  joins?: Join[];
  sources?: Source[];
  messages?: Message[];
  buses?: BusPair[];
  routes?: Route[];
  settings?: Setting[];
  /** Facts that expectations may refer to, for example the picture format of a screen. */
  facts?: Attributes;
  /** Facts that are numbers, with their unit in the name. */
  figures?: Figures;
  /** A camera: which way it looks along the car. */
  looks?: "back" | "ahead";
  /** Visible sign of life, for example `green lamp`. */
  lamp?: string;
  /** What it draws: steady and at the start in ampere, asleep in milliampere, part of the time, lowest supply in volt. */
  draws?: { onA: number; peakA?: number; sleepMa?: number; duty?: number; minimumV?: number };
  /** Minutes to reach the part with the dash open; used to price checks. */
  reachMinutes?: number;
  /** Where its sockets are. */
  back?: BackDrawing;
  photos?: PartPhoto[];
}

/** A photo of the library, named by the SHA-256 of its bytes. */
export interface PartPhoto {
  of: "part" | "plug" | "label";
  sha256: string;
  /** What it shows, where that is not plain. */
  say?: string;
}

/** Two mated ports. */
export interface Link {
  id: string;
  a: PortRef;
  b: PortRef;
  /** Inserted the wrong way round (only possible with a reversible connector). */
  reversed?: boolean;
  /** Not a plug but a path through the air. */
  air?: boolean;
}

/** What is expected at one contact. A value may be taken from a fact: `{ fact: "screen.pictureFormat" }`. */
export interface Expectation {
  at: ContactRef;
  where: Readonly<Record<string, string | { fact: string }>>;
}

export interface FunctionSpec {
  id: string;
  name: string;
  /** One plain sentence: how to try it and what to look for. */
  say: string;
  who: "customer" | "law" | "shop";
  observe: Expectation[];
  /** Tried once in each of these; fields left out keep the usual value. */
  situations: { id: string; label: string; set: Partial<Situation>; actions?: string[] }[];
  withinMs?: number;
  minutes: number;
  /** Safety of the try, shown before it. */
  caution?: string;
}

/** Something a person does that changes the situation if the control signal it needs arrives. */
export interface Action {
  id: string;
  say: string;
  part: string;
  press: string;
  holdS: { min: number; max: number };
  when: Condition;
  set: Partial<Situation>;
}

/** A state of affairs that looks like a fault: the wrong source chosen, a phone that remembers the cable... */
export interface AssumedState {
  id: string;
  title: string;
  cause: string;
  remedy: string;
  normal: boolean;
  where: Partial<Situation>;
  set: Partial<Situation>;
  weight: number;
  minutes: number;
  /** What a person sees of it. */
  seen?: string;
}

/** Something that looks like a fault, is none and passes by itself or with a moment's patience. */
export interface NormalState {
  id: string;
  title: string;
  /** What a person sees meanwhile. */
  seen: string;
  /** The same in the words of a try, where they say it: any of these. */
  shows?: InsteadId[];
  /** What it breaks off at. */
  breaksAt?: BreakAt;
  why: string;
  /** What to do: usually to wait. */
  remedy: string;
  /** How long; left out where it stays so. */
  lastsS?: { min: number; max: number };
  /** Functions at whose tries it is met. */
  functions: string[];
}

/**
 * What a control unit watches by itself: when something it expects is not there, it stores a fault code, although
 * nobody tries anything.
 */
export interface Monitor {
  id: string;
  /** Part that watches; without what it needs to work it stores nothing. */
  by: string;
  /** Fault code as SAE J2012 writes it. */
  code: string;
  /** What the code says. */
  say: string;
  watch?: Expectation[];
  /** Parts that must be in the car. */
  fitted?: string[];
  /** When it looks, beside the usual situation. */
  situation?: Partial<Situation>;
  /** It watches only while this setting (`part.setting`) stands at one of these values. */
  armed?: { setting: string; is: string[] };
}

/**
 * A look, a measurement or an exchange as a document has it: what, where, how, and what a sound car shows. It stands in
 * place of the plain words that are said of every part of its kind.
 */
export interface Inspection {
  id: string;
  kind: "look" | "measure" | "exchange";
  /**
   * Where: a connection to look at, a lead to measure from end to end, a contact (`part.port.contact`) to measure at, a
   * part to exchange; each by its identifier.
   */
  at: string;
  title: string;
  how: string;
  /** Minutes beside the reach of the place. */
  minutes?: number;
  /** What is measured on a sound car. */
  window?: MeterWindow;
  /** How car and phone stand meanwhile, beside the usual. */
  situation?: Partial<Situation>;
}

/** The ends count as within. */
export interface MeterWindow {
  unit: "V" | "Ω" | "A";
  min: number;
  max: number;
}

export interface System {
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
  actions: Action[];
  assumed: AssumedState[];
  monitors?: Monitor[];
  normal?: NormalState[];
  inspections?: Inspection[];
  /** The usual situation; functions override single fields. */
  defaultSituation: Situation;
  /** Settings that stand at another value than the initial one by plan. */
  settings?: Settings;
}

/** Values of settings by `part.setting`. */
export type Settings = Readonly<Record<string, string>>;

/** What is broken, undone or set differently from the system as planned. Empty arrays mean a sound system. */
export interface Disturbance {
  /** Links that are not plugged, with the reason to show. */
  openLinks?: Readonly<Record<string, string>>;
  /** `part/joinIndex` or `part` (all joins), with the reason. */
  openJoins?: Readonly<Record<string, string>>;
  deadParts?: Readonly<Record<string, string>>;
  reversedLinks?: readonly string[];
  /** Links whose `b` end sits in another port; two in each other's place are exchanged. */
  movedLinks?: Readonly<Record<string, PortRef>>;
  /** Contacts that do not sit in their own cavity, by link. */
  cavities?: Readonly<Record<string, Cavities>>;
  settings?: Settings;
  assumed?: readonly AssumedState[];
}

export const DEFAULT_SITUATION: Situation = {
  key: "on",
  selector: "P",
  parkingBrake: true,
  lights: false,
  source: "radio",
  pictureMode: "factory",
  speedKmh: 0,
  phone: "none",
  paired: false,
  pressed: "",
  heldS: 0,
  leftReverse: false,
};
