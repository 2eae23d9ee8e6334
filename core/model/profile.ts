/** The documents a system is composed from. `profiles/` holds their Zod schemas and the shipped library. */
import type { PairingRules } from "../configure/pairing";
import type { ProgrammingPlug } from "../configure/programming-plug";
import type { DashDrawing, DashShape, PlanDrawing } from "../drawing/drawing";
import type { Figures } from "./figures";
import type { StripPlan, StripStep } from "./strip-plan";
import type {
  Action,
  AssumedState,
  ContactRef,
  FunctionSpec,
  Inspection,
  KeyState,
  Link,
  Monitor,
  Need,
  NormalState,
  Part,
  PortRef,
  Situation,
} from "./types";

export type { Fastener, PanelDrawing, PlugBehind, Reach, Side, StepNeeds, StripPlan, StripStep } from "./strip-plan";

export interface DocumentHead {
  /** Stable identifier, equal across versions. */
  id: string;
  version: number;
  title: string;
  /** Where the facts come from: leaflet, own measurement, invented for the demo. */
  sourceNote: string;
}

/** One place of a fuse panel. */
export interface FusePosition {
  id: string;
  /** What hangs on it, in the words of the fuse map. */
  circuit: string;
  ratingA: number;
  family: "micro" | "mini" | "low mini" | "standard" | "maxi";
  /** Key states in which the map says it is live; empty when it does not say. */
  live: KeyState[];
  /** A fuse sits in it; an unused one has a metal contact only. */
  used: boolean;
  /** Never to be touched, beside what its name says already. */
  critical?: boolean;
  /** Column and row in the panel, from 1 at the upper left. */
  at?: [number, number];
}

/** A piece of the way a lead can take between two places of the car. */
export interface RunSegment {
  id: string;
  from: string;
  to: string;
  lengthM: number;
  zone?: "airbag" | "hot" | "sharp" | "moving" | "wet";
  /** It goes through a grommet. */
  grommet?: boolean;
  /** The tightest bend on it. */
  bendRadiusMm?: number;
  say?: string;
}

/** What a place is like in which something of the kit may lie. */
export interface CarPlace {
  name: string;
  surface: "plastic" | "metal";
  /** Air moves there, so that a warm module does not get hot. */
  airy: boolean;
  /** A hand reaches it with every panel closed. */
  byHand: boolean;
  hot?: boolean;
}

/** A car as built, without its radio. */
export interface CarProfile extends DocumentHead {
  document: "car";
  maker: string;
  model: string;
  years: { from: number; to: number };
  driveSide: "left" | "right";
  gearbox: "automatic" | "manual";
  /** Markets in which it was sold, as two-letter country codes (ISO 3166-1). */
  countries?: string[];
  /** What tells its radio variants apart. */
  questions?: VariantQuestion[];
  /** What the shop knows about the identification numbers of this car. `?` in the pattern stands for any character. */
  identification: { pattern: string; says: string }[];
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
  assumed: AssumedState[];
  defaultSituation: Partial<Situation>;
  /** Figures of the battery and of what the ignition draws. */
  power?: { batteryAh: number; ignitionA: number };
  /** Fuse map, as far as it is known. */
  fusePanel?: FusePosition[];
  /** Ways of leads, named by the same places as the strip plan. */
  runs?: RunSegment[];
  places?: CarPlace[];
  /** Measures of the car, with their unit in the name. */
  figures?: Figures;
  /** What its control units watch by themselves. */
  monitors?: Monitor[];
  normal?: NormalState[];
  inspections?: Inspection[];
  /** The dash from the seats and the car from above. */
  drawings?: { dash?: DashDrawing; plan?: PlanDrawing };
  stripPlan: StripPlan;
}

/** A question whose answer separates radio variants of a car. */
export interface VariantQuestion {
  id: string;
  ask: string;
  /** Where to look, in plain words. */
  where: string;
  answers: { id: string; label: string }[];
  /** Seconds it takes to answer. */
  effortS: number;
  /** It can be answered only with the radio out. */
  radioOut?: boolean;
}

/** One allowed update of a radio's firmware. */
export interface FirmwareUpdate {
  from: string;
  to: string;
  minutes: number;
  how: string;
  /** Room on the medium, in megabytes. */
  storageMb?: number | undefined;
  sideEffects: string[];
}

/** What is otherwise from a version of the firmware on: a setting of the radio has another value. */
export interface FirmwareEffect {
  /** Version from which it holds, within its series. */
  from: string;
  /** `part.setting` of the radio. */
  setting: string;
  value: string;
  say: string;
  /** What makes good for it, where something does: contacts to move. */
  cure?: Omit<KitSetting, "means" | "when">;
}

/** One of the radios with which the car was sold. */
export interface VariantProfile extends DocumentHead {
  document: "variant";
  car: string;
  /** Answers this variant can give to the questions of the car; a question left out says nothing about it. */
  answers?: Record<string, string[]>;
  /** How often it is met, in parts of all radios of this car. */
  share?: number;
  /** Allowed updates and how the version is written on label and version screen; `*` stands for any text. */
  firmware?: { updates: FirmwareUpdate[]; written?: string[]; effects?: FirmwareEffect[] };
  /** How a person recognises it from the driver's seat. */
  identifyingFeatures: string[];
  /** How it looks in the dash of its car; the same identifiers stand over the car's own shapes. */
  dash?: DashShape[];
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
  monitors?: Monitor[];
  normal?: NormalState[];
  inspections?: Inspection[];
}

export interface ChoiceCondition {
  choice: string;
  is: string[];
}

export interface Choice {
  id: string;
  label: string;
  /** What makes up another offer (an option of the kit, the sound path) or only another way of working. */
  kind: "offer" | "method";
  options: { id: string; label: string; why: string; assume?: Partial<Situation>; price?: number; minutes?: number }[];
  /** Option taken when the job says nothing. */
  default: string;
  /** Asked only then, by choices that stand before it; else the default option stands. */
  when?: KitCondition;
}

/** A choice taken, a fact of the car document, a fact of a part of the stock car (`part.fact`), or several of these. */
export type KitCondition =
  | ChoiceCondition
  | { car: "gearbox" | "driveSide"; is: string[] }
  | { fact: string; is: string[] }
  | { all: KitCondition[] }
  | { any: KitCondition[] }
  | { not: KitCondition };

/** A part of a kit; some of its needs may hang on a choice, as the feed of a module does. */
export interface KitPart extends Omit<Part, "needs"> {
  needs?: (Need & { when?: KitCondition })[];
  when?: KitCondition;
}

/**
 * A step that the kit asks for beside the way into the car: a unit is opened, a hole is drilled. Its `after` names
 * other steps of the kit.
 */
export interface KitStep extends StripStep {
  /** Port of the car whose plug must be off before, for example that of the unit which is opened. */
  behind?: PortRef;
  /** Port whose socket leaves the car with this step: not where something plugs into it. */
  frees?: PortRef;
}

/** A line of the customer's card; with a condition it stands there only with that choice. */
export type CardLine = string | { say: string; when?: KitCondition };

export interface KitLink extends Link {
  /** One line: what goes where. */
  say: string;
  when?: KitCondition;
}

/** How a setting of the fitted car gets its value. */
export type SettingMeans = "coding" | "gateway" | "menu" | "programmingPlug" | "firmware" | "contacts" | "programming";

/** A setting that the kit needs at a value: a coded word, a menu entry, a contact moved into another housing. */
export interface KitSetting {
  /** `part.setting` of the fitted system. */
  setting: string;
  value: string;
  means: SettingMeans;
  say: string;
  minutes: number;
  /** Where it is found, for an entry of a menu. */
  where?: string;
  /** Contacts that change their cavity for it. */
  moves?: PinMove[];
  when?: KitCondition;
}

/** A contact that is taken out of one cavity and pushed into another; `cut` when its wire is cut for it. */
export interface PinMove {
  from: ContactRef;
  to: ContactRef;
  cut?: boolean;
}

export type NeedKind = "part" | "material" | "tool" | "programming" | "wire" | "drilling" | "licence" | "person";

/** Something the job needs that is not in the box. */
export interface KitNeed {
  kind: NeedKind;
  say: string;
  why?: string;
  minutes?: number;
  price?: number;
  when?: KitCondition;
}

/** A lead of the kit with its two ends in the car. */
export interface KitLead {
  /** Part of the kit whose length counts. */
  part: string;
  from: string;
  to: string;
  kind?: "plain" | "twisted" | "optical";
  /** Places where a panel comes off again and a loop must stay. */
  service?: string[];
  when?: KitCondition;
}

export interface KitProfile extends DocumentHead {
  document: "kit";
  maker: string;
  /** Kind of work, for lists and search. */
  work: string;
  /** Price of the kit in the shop's currency, without fitting. */
  price: number;
  /** Minutes of fitting beside the strip plan. */
  fitMinutes: Minutes;
  /** What must be true of the car; each with the reason to show when it is not. */
  fits: { condition: KitCondition; why: string }[];
  /** Parts of the car that leave it; all their connections go with them. A kit part may take over the identifier. */
  replaces: { part: string; why: string; ifPresent?: boolean }[];
  parts: KitPart[];
  /** Steps beside the way into the car, always done: opening a unit. */
  steps?: KitStep[];
  /** Factory connections to open, by the two ports. */
  unplug: { a: PortRef; b: PortRef; why: string; when?: KitCondition }[];
  /** Connections to make, in the order of plugging. */
  plug: KitLink[];
  /** Places that must be reached beside the plugs: for the module, the microphone, a lead. */
  reach?: { place: string; why: string; holds?: string; when?: KitCondition }[];
  /** Where its leads run. */
  leads?: KitLead[];
  /** What stays in the car unused, wrapped over a length and tied back. */
  tiesBack?: { say: string; lengthM: number; when?: KitCondition }[];
  choices: Choice[];
  functions: (FunctionSpec & { when?: KitCondition })[];
  actions: Action[];
  assumed: AssumedState[];
  monitors?: (Monitor & { when?: KitCondition })[];
  /** What looks like a fault after fitting and is none. */
  normal?: (NormalState & { when?: KitCondition })[];
  inspections?: (Inspection & { when?: KitCondition })[];
  switchBank?: SwitchBank;
  sets: KitSetting[];
  /** The plug that tells the car of a new module, where the kit has one. */
  programmingPlug?: ProgrammingPlug;
  /** How phones meet it, where its leaflet says so. */
  phone?: PairingRules;
  firmwareFloors: { part: string; atLeast: string; why: string; when?: KitCondition }[];
  box: string[];
  needs: KitNeed[];
  /** Lines for the customer's card: toggle and pairing. */
  card: CardLine[];
}

/** A row of small switches. Every switch is a two-valued setting of one part, read at power-up only. */
export interface SwitchBank {
  part: string;
  label: string;
  /** Setting identifiers in the order on the housing. */
  switches: string[];
  off: string;
  on: string;
}

/** A duration as the trade estimates it: if all goes well, usually, if it does not. In minutes. */
export interface Minutes {
  low: number;
  likely: number;
  high: number;
}
