/** The documents a system is composed from. `profiles/` holds their Zod schemas and the shipped library. */
import type { Action, AssumedState, FunctionSpec, KeyState, Link, Part, PortRef, Selector, Situation } from "./types";

interface DocumentHead {
  /** Stable identifier, equal across versions. */
  id: string;
  version: number;
  title: string;
  /** Where the facts come from: leaflet, own measurement, invented for the demo. */
  sourceNote: string;
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
  usual: Partial<Situation>;
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
  sideEffects: string[];
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
  firmware?: { updates: FirmwareUpdate[]; written?: string[] };
  /** How a person recognises it from the driver's seat. */
  tells: string[];
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
}

export interface ChoiceCondition {
  choice: string;
  is: string[];
}

export interface Choice {
  id: string;
  label: string;
  /** What makes up another offer (an option of the kit, the sound path) or only another way of working. */
  kind: "offer" | "school";
  options: { id: string; label: string; why: string; assume?: Partial<Situation>; price?: number; minutes?: number }[];
  /** Option taken when the job says nothing. */
  usual: string;
}

/** A choice taken, a fact of the car document, or a fact of a part of the stock car (`part.fact`). */
export type KitCondition =
  | ChoiceCondition
  | { car: "gearbox" | "driveSide"; is: string[] }
  | { fact: string; is: string[] };

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
  when?: KitCondition;
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

export interface KitProfile extends DocumentHead {
  document: "kit";
  maker: string;
  /** Kind of work, for lists and search. */
  work: string;
  /** Price of the kit in the shop's currency, without fitting. */
  price: number;
  /** Minutes of fitting beside the strip plan. */
  fitMinutes: { low: number; usual: number; high: number };
  /** What must be true of the car; each with the reason to show when it is not. */
  fits: { condition: KitCondition; why: string }[];
  /** Parts of the car that leave it; all their connections go with them. A kit part may take over the identifier. */
  replaces: { part: string; why: string; ifPresent?: boolean }[];
  parts: (Part & { when?: KitCondition })[];
  /** Factory connections to open, by the two ports. */
  unplug: { a: PortRef; b: PortRef; why: string; when?: KitCondition }[];
  /** Connections to make, in the order of plugging. */
  plug: KitLink[];
  choices: Choice[];
  functions: (FunctionSpec & { when?: KitCondition })[];
  actions: Action[];
  assumed: AssumedState[];
  switchBank?: SwitchBank;
  sets: KitSetting[];
  firmwareFloors: { part: string; atLeast: string; why: string; when?: KitCondition }[];
  box: string[];
  needs: KitNeed[];
  /** Lines for the customer's card: toggle and pairing. */
  card: string[];
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

export interface StripPlan {
  steps: StripStep[];
}

/** One step on the way into the dash. */
export interface StripStep {
  id: string;
  title: string;
  /** The same step on the way back, in its own words. */
  back?: { title: string; detail: string };
  detail: string;
  /** Steps that must be done before. */
  after: string[];
  minutes: number;
  tool?: string;
  /** Panel that is off after the step. */
  panel?: string;
  fasteners?: { kind: string; count: number; lengthMm?: number; tray: string };
  /** Links that this step opens, by their two ports. */
  opens?: { a: PortRef; b: PortRef }[];
  /** Car state that the step sets. */
  sets?: { battery?: "connected" | "isolated"; key?: KeyState; selector?: Selector; parkingBrake?: boolean };
  /** Car state without which the step is dangerous or impossible. */
  requires?: { battery?: "isolated"; key?: KeyState; selector?: Selector[]; parkingBrake?: true };
  airbagZone?: boolean;
  caution?: string;
}
