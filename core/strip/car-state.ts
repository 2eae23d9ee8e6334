/** The car as the done steps leave it, and as people say that it stands. */

import type { CarStand, Pause, StepEvent, Stood, StripJournal } from "../log/strip-journal";
import type { Fastener, PlugBehind, StripPlan, StripStep } from "../model/profile";
import { PARKED, prepStepOf } from "./vehicle-state";

export interface PlugOpen extends PlugBehind {
  step: string;
}
export interface FastenerOut extends Fastener {
  step: string;
  /** Number of the group within its step. */
  group: number;
}

export interface CarState extends CarStand {
  panelsOff: string[];
  plugsOpen: PlugOpen[];
  fastenersOut: FastenerOut[];
  /** When the battery was taken off; null while it is connected. */
  isolatedAt: string | null;
  /** False when the key was left on over a long pause: nobody knows how it stands. */
  keyKnown: boolean;
  /** Hours with ignition or accessory on, engine and maintainer off, battery connected, without the last spell. */
  keyOnHours: number;
  /** Since when this spell lasts; null while nothing is drawn. */
  keyOnSince: string | null;
}

/** When nobody logged anything on the job, and the moment that is looked at. */
export interface Quiet {
  pauses: readonly Pause[];
  /** Last entry of the job; null while there is none. */
  lastAt: string | null;
}

export const NEVER_QUIET: Quiet = { pauses: [], lastAt: null };

/**
 * The car state after the step events of a journal, in their order, with what people said of it between them. Step events
 * that the plan does not know change nothing.
 *
 * @param now ISO 8601, UTC
 * @param home true for a factory plug that was closed again beside its step, or in whose place the kit sits
 */
export function carState(
  plan: StripPlan,
  journal: StripJournal,
  now: string,
  quiet: Quiet = NEVER_QUIET,
  home: (plug: PlugBehind) => boolean = () => false,
): CarState {
  const steps = new Map(plan.steps.map((s) => [s.id, s]));
  let state: CarState = {
    ...PARKED,
    rolling: false,
    maintainer: false,
    waited: false,
    panelsOff: [],
    plugsOpen: [],
    fastenersOut: [],
    isolatedAt: null,
    keyKnown: true,
    keyOnHours: 0,
    keyOnSince: null,
  };
  // A clock may have run behind: nothing was done before what was logged before it.
  let clock = "";
  for (const item of inTurn(journal)) {
    const at = item.at > clock ? item.at : clock;
    state = leftAlone(state, clock, at, quiet);
    clock = at;
    if ("sets" in item) state = stood(state, item.sets, at);
    else state = afterDeed(state, plan, steps.get(item.step), { ...item, at });
  }
  state = leftAlone(state, clock, now, quiet);
  return { ...state, plugsOpen: state.plugsOpen.filter((p) => !home(p)) };
}

/** Step events and what was said of the car, as they were logged. */
function inTurn({ stepEvents, stood: said }: StripJournal): (StepEvent | Stood)[] {
  const left = [...said];
  const result: (StepEvent | Stood)[] = [];
  for (const [i, event] of stepEvents.entries()) {
    while (left[0] && left[0].after <= i) result.push(left.shift() as Stood);
    result.push(event);
  }
  return [...result, ...left];
}

/** So long a key may stay on without any entry; our assumption: nobody leaves it so over a long break. */
const LONGEST_QUIET_MS = 120 * 60_000;

const lengthMs = ({ from, to }: Pause): number => Date.parse(to) - Date.parse(from);

/** After a long time without any entry nobody knows whether the key is still on; what it drew is counted so long. */
function leftAlone(state: CarState, from: string, to: string, { pauses, lastAt }: Quiet): CarState {
  if (state.key === "off") return state;
  const last = lastAt !== null && lastAt > from ? lastAt : from;
  const since =
    pauses.find((p) => p.from >= from && p.from < to && lengthMs(p) > LONGEST_QUIET_MS)?.from ??
    (lengthMs({ from: last, to }) > LONGEST_QUIET_MS ? last : null);
  if (since === null) return state;
  const end = new Date(Date.parse(since) + LONGEST_QUIET_MS).toISOString();
  const { keyOnHours } = stood(state, { key: "off" }, end);
  return { ...state, keyOnHours, keyOnSince: null, rolling: false, keyKnown: false };
}

function afterDeed(state: CarState, plan: StripPlan, step: StripStep | undefined, event: StepEvent): CarState {
  const prepStep = step ? undefined : prepStepOf(plan, event.step);
  if (prepStep) {
    // Jobs of earlier releases undid the battery step itself.
    const sets: Partial<CarStand> =
      event.direction === "in" ? prepStep.sets : prepStep.sets.battery === "isolated" ? { battery: "connected" } : {};
    return stood(state, sets, event.at);
  }
  if (!step) return state;
  return event.direction === "in" ? takenOff(state, step) : putBack(state, step);
}

function stood(state: CarState, sets: Partial<CarStand>, at: string): CarState {
  const next = { ...state, ...sets };
  if (sets.key) next.keyKnown = true;
  // A car with its key off stands; one whose battery is on has no waiting time behind it.
  if (next.key === "off") next.rolling = false;
  const draws = (s: CarStand) =>
    s.battery === "connected" && !s.maintainer && (s.key === "on" || s.key === "accessory");
  if (draws(state) && !draws(next)) {
    next.keyOnHours = state.keyOnHours + hoursBetween(state.keyOnSince, at);
    next.keyOnSince = null;
  } else if (!draws(state) && draws(next)) next.keyOnSince = at;
  // A running engine charges what was taken.
  if (next.key === "running") next.keyOnHours = 0;
  if (next.battery !== state.battery) {
    next.isolatedAt = next.battery === "isolated" ? at : null;
    next.waited = false;
  }
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
