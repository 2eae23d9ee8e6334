/** What was done to the car, as the entries of the Strip surface tell it. */
import type { Fastener } from "../model/profile";
import type { KeyState, Selector } from "../model/types";

/** How the car stands, beside what is off and open. */
export interface CarStand {
  battery: "connected" | "isolated";
  key: KeyState;
  selector: Selector;
  parkingBrake: boolean;
  /** Somebody drives it, on the closed yard. */
  rolling: boolean;
  /** A battery maintainer is connected. */
  maintainer: boolean;
  /** The waiting time that the maker asks for after the battery is off is over, as a person says. */
  waited: boolean;
}

/** Somebody brought the car to stand so, or saw that it does. */
export interface Stood {
  sets: Partial<CarStand>;
  /** How many step events there were before. */
  after: number;
  at: string;
  by: string;
  entry: string;
}

/** A long time in which nothing was logged on the job, ISO 8601, UTC. */
export interface Pause {
  from: string;
  to: string;
}

/** One thing done: a step of the way in, the same step on the way back, or a preparation step. */
export interface StepEvent {
  step: string;
  direction: "in" | "back";
  /** ISO 8601, UTC. */
  at: string;
  by: string;
  entry: string;
}

/** A step that the plan did not have. */
export interface AddedStep {
  id: string;
  /** The step before which it had to be done; null for the end. */
  before: string | null;
  title: string;
  detail: string;
  tool?: string;
  panel?: string;
  fasteners?: Fastener[];
}

/** How a step was in the car at hand. */
export interface Differs {
  tool?: string;
  fasteners?: { group: number; count?: number; lengthMm?: number }[];
}

/** A small part that is broken or missing and must be replaced. */
export interface SmallPart {
  step: string | null;
  what: string;
  state: "broken" | "lost";
  count: number;
}

/** Changes of the plan that are made on the car. */
export type StripEdit =
  | { kind: "strip.skip"; data: { step: string; reason: string } }
  | { kind: "strip.add"; data: AddedStep }
  | { kind: "strip.want"; data: { step: string; wanted: boolean } }
  | { kind: "strip.split"; data: { step: string; parts: string[] } }
  | { kind: "strip.note"; data: { step: string; note: string; photo?: string; differs?: Differs } }
  | { kind: "strip.count"; data: { step: string; group: number; direction: "in" | "out"; count: number } };

interface Stamp {
  at: string;
  by: string;
  entry: string;
}

/** The part of a job's state that the entries of the Strip surface fold into. */
export interface StripJournal {
  /** Steps and preparation steps in the order in which they were done. */
  stepEvents: StepEvent[];
  skipped: Map<string, string>;
  added: AddedStep[];
  wanted: Set<string>;
  splits: Map<string, string[]>;
  notes: ({ step: string; note: string; photo?: string; differs?: Differs } & Stamp)[];
  /** Fasteners counted, by `step/group`. */
  counts: Map<string, { out?: number; in?: number }>;
  small: (SmallPart & Stamp)[];
  /** The bench test was passed over on purpose. */
  gate: ({ reason: string } & Stamp) | null;
  /** How the car was brought to stand, beside the preparation steps. */
  stood: Stood[];
  /** Steps behind whose place somebody has looked and felt, by step: who and when. */
  behind: Map<string, Stamp>;
}

/** The part of the state that some kind of the Strip surface brings. */
export type StripSlice<K extends keyof StripJournal> = { strip: Pick<StripJournal, K> };

/** Steps that are off now: done on the way in and not back. */
export function offNow(journal: { readonly stepEvents: readonly StepEvent[] }): Set<string> {
  const off = new Set<string>();
  for (const e of journal.stepEvents) {
    off.delete(e.step);
    // Taken out and put in again, so that the set is in the order in which things were really done.
    if (e.direction === "in") off.add(e.step);
  }
  return off;
}

/** Steps that were done at any time. */
export function everDone(journal: { readonly stepEvents: readonly Pick<StepEvent, "step">[] }): Set<string> {
  return new Set(journal.stepEvents.map((e) => e.step));
}
