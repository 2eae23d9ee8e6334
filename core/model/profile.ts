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
  /** What the shop knows about the identification numbers of this car. `?` in the pattern stands for any character. */
  identification: { pattern: string; says: string }[];
  parts: Part[];
  links: Link[];
  functions: FunctionSpec[];
  assumed: AssumedState[];
  usual: Partial<Situation>;
  stripPlan: StripPlan;
}

/** One of the radios with which the car was sold. */
export interface VariantProfile extends DocumentHead {
  document: "variant";
  car: string;
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
  options: { id: string; label: string; why: string; assume?: Partial<Situation> }[];
  /** Option taken when the job says nothing. */
  usual: string;
}

export interface KitLink extends Link {
  /** One line: what goes where. */
  say: string;
  when?: ChoiceCondition;
}

export interface KitProfile extends DocumentHead {
  document: "kit";
  maker: string;
  parts: (Part & { when?: ChoiceCondition })[];
  /** Factory connections to open, by the two ports. */
  unplug: { a: PortRef; b: PortRef; why: string }[];
  /** Connections to make, in the order of plugging. */
  plug: KitLink[];
  choices: Choice[];
  functions: (FunctionSpec & { when?: ChoiceCondition })[];
  actions: Action[];
  assumed: AssumedState[];
  switchBank?: SwitchBank;
  box: string[];
  needsBesides: string[];
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
