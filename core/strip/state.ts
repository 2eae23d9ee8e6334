import { CoreError } from "../model/errors";
import type { StripPlan, StripStep } from "../model/profile";
import type { KeyState, Selector } from "../model/types";

/** A strip plan that cannot be followed: a loop or a step after one that does not exist. */
export class PlanError extends CoreError {}

/** The car as the done steps leave it; nothing here is typed by a person. */
export interface CarState {
  battery: "connected" | "isolated";
  key: KeyState;
  selector: Selector;
  parkingBrake: boolean;
  panelsOff: string[];
  /** Factory connections opened by steps, as `a – b` port pairs. */
  plugsOpen: { a: string; b: string }[];
  fastenersOut: { kind: string; count: number; lengthMm?: number; tray: string; step: string }[];
}

export interface Hazard {
  id: string;
  level: "stop" | "watch";
  text: string;
  remedy: string;
}

const PARKED: CarState = {
  battery: "connected",
  key: "off",
  selector: "P",
  parkingBrake: false,
  panelsOff: [],
  plugsOpen: [],
  fastenersOut: [],
};

/**
 * Orders the steps so that nothing comes before what it needs; among possible steps the order of the plan stays.
 *
 * @throws {PlanError} naming the loop or the missing step
 */
export function orderSteps(plan: StripPlan): StripStep[] {
  const ids = new Set(plan.steps.map((s) => s.id));
  for (const step of plan.steps) {
    const missing = step.after.find((a) => !ids.has(a));
    if (missing)
      throw new PlanError(
        `strip plan, step “${step.title}”`,
        `it comes after “${missing}”, which is not in the plan.`,
        "Add the step or correct the name.",
      );
  }
  const done = new Set<string>();
  const order: StripStep[] = [];
  while (order.length < plan.steps.length) {
    const next = plan.steps.find((s) => !done.has(s.id) && s.after.every((a) => done.has(a)));
    if (!next) {
      const loop = plan.steps.filter((s) => !done.has(s.id)).map((s) => s.title);
      throw new PlanError(
        "strip plan",
        `these steps wait for each other: ${loop.join(", ")}.`,
        "Remove one of their “after” entries.",
      );
    }
    done.add(next.id);
    order.push(next);
  }
  return order;
}

/** One thing done to the car: a step of the way in, or the same step undone on the way back. */
export interface Deed {
  step: string;
  direction: "in" | "back";
}

/** The car state after the deeds, in their order. Unknown steps change nothing. */
export function carState(plan: StripPlan, deeds: readonly Deed[]): CarState {
  let state = PARKED;
  for (const deed of deeds) {
    const step = plan.steps.find((s) => s.id === deed.step);
    if (step) state = deed.direction === "in" ? into(state, step) : back(state, step);
  }
  return state;
}

function into(state: CarState, step: StripStep): CarState {
  return {
    ...state,
    ...step.sets,
    panelsOff: step.panel ? [...state.panelsOff, step.panel] : state.panelsOff,
    plugsOpen: [...state.plugsOpen, ...(step.opens ?? [])],
    fastenersOut: step.fasteners ? [...state.fastenersOut, { ...step.fasteners, step: step.id }] : state.fastenersOut,
  };
}

function back(state: CarState, step: StripStep): CarState {
  const opened = step.opens ?? [];
  return {
    ...state,
    battery: step.sets?.battery === "isolated" ? "connected" : state.battery,
    panelsOff: state.panelsOff.filter((p) => p !== step.panel),
    plugsOpen: state.plugsOpen.filter((p) => !opened.some((o) => o.a === p.a && o.b === p.b)),
    fastenersOut: state.fastenersOut.filter((f) => f.step !== step.id),
  };
}

/**
 * Steps of the way back: what was really taken off, last first. The battery comes first of all, because everything is
 * proven before a panel goes back. Rituals have no way back.
 */
export function wayBack(plan: StripPlan, done: ReadonlySet<string>): StripStep[] {
  const undone = orderSteps(plan).filter(
    (s) => done.has(s.id) && (s.panel || s.fasteners || s.opens || s.sets?.battery),
  );
  const isBattery = (s: StripStep) => s.sets?.battery !== undefined;
  return [...undone.filter(isBattery), ...undone.filter((s) => !isBattery(s)).reverse()];
}

/** What a step of the way back says; a profile without words of its own gets the title turned round. */
export function backWords(step: StripStep): { title: string; detail: string } {
  return step.back ?? { title: `Undo: ${step.title.charAt(0).toLowerCase()}${step.title.slice(1)}`, detail: "" };
}

/** Dangers of the car as it stands. */
export function stateHazards(state: CarState): Hazard[] {
  const hazards: Hazard[] = [];
  if (state.selector !== "P" && !state.parkingBrake) {
    hazards.push({
      id: "roll",
      level: "stop",
      text: "Selector out of park and the parking brake is not set: the car can roll.",
      remedy: "Set the parking brake and chock a wheel.",
    });
  } else if (state.selector !== "P") {
    hazards.push({
      id: "selector",
      level: "watch",
      text: `Selector in ${state.selector}.`,
      remedy: "Back to park as soon as the panel is out.",
    });
  }
  if (state.key !== "off" && state.battery === "connected" && state.plugsOpen.length > 0) {
    hazards.push({
      id: "key-open",
      level: "watch",
      text: "Ignition on while factory plugs are open: control units may store faults.",
      remedy: "Ignition off before a plug is opened or closed.",
    });
  }
  return hazards;
}

/** Dangers of doing a step in this state; a `stop` must be confirmed by the person and the confirmation logged. */
export function stepHazards(state: CarState, step: StripStep): Hazard[] {
  const hazards: Hazard[] = [];
  const needs = step.requires ?? {};
  if (needs.battery === "isolated" && state.battery !== "isolated") {
    hazards.push({
      id: "airbag",
      level: "stop",
      text: `${step.title}: ${step.airbagZone ? "airbag zone next" : "this step is next"} and the battery is connected.`,
      remedy: "Battery negative off, then wait as the maker says.",
    });
  }
  if (needs.parkingBrake && !state.parkingBrake) {
    hazards.push({
      id: "brake",
      level: "stop",
      text: `${step.title}: the parking brake is not set.`,
      remedy: "Set the parking brake first.",
    });
  }
  if (needs.key && state.key !== needs.key) {
    hazards.push({
      id: "key",
      level: "watch",
      text: `${step.title}: the key should be ${needs.key}, it is ${state.key}.`,
      remedy: `Turn the key to ${needs.key}.`,
    });
  }
  if (needs.selector && !needs.selector.includes(state.selector)) {
    hazards.push({
      id: "selector-position",
      level: "watch",
      text: `${step.title}: the selector should be in ${needs.selector.join(" or ")}, it is in ${state.selector}.`,
      remedy: "Move the selector first.",
    });
  }
  return hazards;
}

/** Fasteners by tray, with a warning where one drive is out in two lengths. */
export function trays(
  state: CarState,
): { tray: string; kind: string; count: number; lengthMm?: number; mixed: boolean }[] {
  return state.fastenersOut
    .map(({ tray, kind, count, lengthMm }) => ({
      tray,
      kind,
      count,
      lengthMm,
      mixed: state.fastenersOut.some((o) => o.kind === kind && o.lengthMm !== lengthMm),
    }))
    .sort((a, b) => (a.tray < b.tray ? -1 : 1));
}
