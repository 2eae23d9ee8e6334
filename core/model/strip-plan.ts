/** The way into a car as a document: panels and parts, what holds them, what they hide. */
import type { KitCondition, Minutes } from "./profile";
import type { KeyState, LockKind, PortRef, Selector } from "./types";

/** How to get into the car: a graph of panels and parts. The planner takes of it what a job needs. */
export interface StripPlan {
  steps: StripStep[];
  /** What can be reached without taking anything off. */
  free?: Reach;
  /** Minutes to wait after the battery is off before an airbag zone, from the maker's procedure. */
  batteryWaitMin?: number;
  /** Where the battery is. */
  batterySide?: Side;
  /** What lets the selector out of park: the brake pedal with the ignition on, or a tab under a cover. */
  selectorRelease?: "pedal" | "tab";
}

/** Where the technician stands. A step without one is done from where he is. */
export type Side = "driver" | "passenger" | "rear" | "tailgate" | "engineBay";

/** Things that come within reach: parts with all their plugs, single plugs, and places for module and leads. */
export interface Reach {
  parts?: string[];
  ports?: PortRef[];
  places?: string[];
}

/** Screws, nuts or bolts of one kind and one length that lie together. */
export interface Fastener {
  /** Drive and kind, for example `T20 screw`. */
  kind: string;
  count: number;
  lengthMm?: number;
  tray: string;
  /** Where they sit. */
  place?: string;
  /** What hides them. */
  hiddenBehind?: string;
}

/** A connector behind a panel. */
export interface PlugBehind {
  a: PortRef;
  b: PortRef;
  lock?: LockKind;
  /** How it opens, when the lock alone does not say it. */
  how?: string;
  /** An airbag plug: ignition stays off while it is open. */
  airbag?: boolean;
  /** As people call it; written when a job is planned, never in a document. */
  name?: string;
}

/** A drawing of a panel as seen from the front; all places in parts of its width and height, 0 to 100. */
export interface PanelDrawing {
  /** Corners of the outline. */
  outline: [number, number][];
  /** Width over height. */
  aspect: number;
  marks: {
    what: "start" | "clip" | "screw" | "hook" | "plug";
    at: [number, number];
    /** For `start`: where to pull to. For `screw`: the number of the fastener group. */
    to?: [number, number];
    group?: number;
  }[];
}

/** Car state that a step needs; what is left out must be at rest: selector in park, key off. */
export interface StepNeeds {
  battery?: "isolated";
  key?: KeyState;
  selector?: Selector[];
}

/** One panel or part on the way into the car. */
export interface StripStep {
  id: string;
  title: string;
  /** The same step on the way back, in its own words. */
  back?: { title: string; detail: string };
  detail: string;
  /** Steps that must be done before. */
  after: string[];
  /** On which cars of this profile it occurs. */
  when?: KitCondition;
  minutes: Minutes;
  tool?: string;
  side?: Side;
  /** Height in the car: the way back closes from the top to the bottom. */
  level?: "upper" | "middle" | "lower";
  /** Edges and surfaces to cover before. */
  cover?: string[];
  /** Panel that is off after the step. */
  panel?: string;
  fasteners?: Fastener[];
  clips?: { count: number; start: string; stay?: "dash" | "panel" };
  /** What goes in first on refitting. */
  hooks?: string;
  /** Plugs that this step opens. */
  opens?: PlugBehind[];
  /** What comes within reach. */
  reaches?: Reach;
  /** Parts that move from the old panel to the new one when it is replaced. */
  transfer?: string[];
  /** Blanks for openings that stay empty. */
  blanks?: string[];
  requires?: StepNeeds;
  airbagZone?: boolean;
  /** It cannot be undone: a hole is drilled, a wire of the car is cut, a joint is soldered. */
  lasting?: "hole" | "cut" | "joint" | undefined;
  caution?: string;
  drawing?: PanelDrawing;
}
