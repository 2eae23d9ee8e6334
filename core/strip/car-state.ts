/** The car as the done steps leave it; nothing here is typed by a person. */

import type { StepEvent, StripJournal } from "../log/strip-journal";
import type { Fastener, PlugBehind, StripPlan, StripStep } from "../model/profile";
import type { KeyState } from "../model/types";
import { PARKED, prepStepOf, type VehicleState } from "./vehicle-state";

export interface PlugOpen extends PlugBehind {
  step: string;
}
export interface FastenerOut extends Fastener {
  step: string;
  /** Number of the group within its step. */
  group: number;
}

export interface CarState extends VehicleState {
  panelsOff: string[];
  plugsOpen: PlugOpen[];
  fastenersOut: FastenerOut[];
  /** When the battery was taken off; null while it is connected. */
  isolatedAt: string | null;
  /** Hours with ignition or accessory on and the engine off, battery connected, without the last spell. */
  keyOnHours: number;
  /** Since when this spell lasts; null while the key is off or the engine runs. */
  keyOnSince: string | null;
  maintainer: boolean;
}

/** A try of the proving left the key so. */
export interface Tried {
  at: string;
  key: KeyState;
}

/**
 * The car state after the step events of a journal, in their order, with the tries of the proving between them. Step events that
 * the plan does not know change nothing.
 *
 * @param now ISO 8601, UTC
 * @param home true for a factory plug that was closed again beside its step, or in whose place the kit sits
 */
export function carState(
  plan: StripPlan,
  journal: StripJournal,
  now: string,
  tried: readonly Tried[] = [],
  home: (plug: PlugBehind) => boolean = () => false,
): CarState {
  const steps = new Map(plan.steps.map((s) => [s.id, s]));
  let state: CarState = {
    ...PARKED,
    panelsOff: [],
    plugsOpen: [],
    fastenersOut: [],
    isolatedAt: null,
    keyOnHours: 0,
    keyOnSince: null,
    maintainer: journal.maintainer,
  };
  for (const item of ended(merged(journal.stepEvents, tried), now)) {
    if ("key" in item) state = stood(state, { key: item.key }, item.at);
    else state = afterDeed(state, plan, steps.get(item.step), item);
  }
  return { ...state, plugsOpen: state.plugsOpen.filter((p) => !home(p)) };
}

/** Step events stay in the order of the journal, also when a device's clock was wrong; a try goes before the first later event. */
function merged(stepEvents: readonly StepEvent[], tried: readonly Tried[]): (StepEvent | Tried)[] {
  const tries = tried.toSorted((a, b) => (a.at < b.at ? -1 : 1));
  const result: (StepEvent | Tried)[] = [];
  for (const event of stepEvents) {
    while (tries[0] && tries[0].at < event.at) result.push(tries.shift() as Tried);
    result.push(event);
  }
  return [...result, ...tries];
}

/** Nobody leaves a try standing over a long pause: after half an hour without anything it counts as ended, key off. */
const LONGEST_TRY_MS = 30 * 60_000;

function ended(items: readonly (StepEvent | Tried)[], now: string): (StepEvent | Tried)[] {
  return items.flatMap((item, i): (StepEvent | Tried)[] => {
    if (!("key" in item)) return [item];
    const end = Date.parse(item.at) + LONGEST_TRY_MS;
    const next = Date.parse(items[i + 1]?.at ?? now);
    return next > end ? [item, { at: new Date(end).toISOString(), key: "off" as const }] : [item];
  });
}

function afterDeed(state: CarState, plan: StripPlan, step: StripStep | undefined, event: StepEvent): CarState {
  const prepStep = step ? undefined : prepStepOf(plan, event.step);
  if (prepStep) {
    // Jobs of earlier releases undid the battery step itself.
    const sets: Partial<VehicleState> =
      event.direction === "in" ? prepStep.sets : prepStep.sets.battery === "isolated" ? { battery: "connected" } : {};
    return stood(state, sets, event.at);
  }
  if (!step) return state;
  return event.direction === "in" ? takenOff(state, step) : putBack(state, step);
}

function stood(state: CarState, sets: Partial<VehicleState>, at: string): CarState {
  const next = { ...state, ...sets };
  const draws = (s: VehicleState) => s.battery === "connected" && (s.key === "on" || s.key === "accessory");
  if (draws(state) && !draws(next)) {
    next.keyOnHours = state.keyOnHours + hoursBetween(state.keyOnSince, at);
    next.keyOnSince = null;
  } else if (!draws(state) && draws(next)) next.keyOnSince = at;
  // A running engine charges what was taken.
  if (next.key === "running") next.keyOnHours = 0;
  if (sets.battery && sets.battery !== state.battery) next.isolatedAt = sets.battery === "isolated" ? at : null;
  return next;
}

/** Hours between two moments; none when a clock ran backwards. */
export function hoursBetween(from: string | null, to: string): number {
  return from === null ? 0 : Math.max(0, (Date.parse(to) - Date.parse(from)) / 3_600_000);
}

function takenOff(state: CarState, step: StripStep): CarState {
  return {
    ...state,
    panelsOff: step.panel ? [...state.panelsOff, step.panel] : state.panelsOff,
    plugsOpen: [...state.plugsOpen, ...(step.opens ?? []).map((o) => ({ ...o, step: step.id }))],
    fastenersOut: [
      ...state.fastenersOut,
      ...(step.fasteners ?? []).map((f, group) => ({ ...f, step: step.id, group })),
    ],
  };
}

function putBack(state: CarState, step: StripStep): CarState {
  return {
    ...state,
    panelsOff: state.panelsOff.filter((p) => p !== step.panel),
    plugsOpen: state.plugsOpen.filter((p) => p.step !== step.id),
    fastenersOut: state.fastenersOut.filter((f) => f.step !== step.id),
  };
}
