/** Dangers of the car as it stands and of the step to come. */

import { lowerFirst } from "../model/labels";
import type { CarProfile, StepNeeds, StripPlan } from "../model/profile";
import { type CarState, hoursBetween } from "./car-state";
import { prepStepsTo } from "./prep-path";
import { allows, type VehicleState } from "./vehicle-state";

export interface Hazard {
  id: string;
  level: "stop" | "watch";
  text: string;
  remedy: string;
}

export interface HazardContext {
  plan: StripPlan;
  power?: CarProfile["power"];
  /** ISO 8601, UTC. */
  now: string;
}

/**
 * Parts of the battery's capacity that the ignition may take before a warning and before a start is doubtful. A car
 * battery comes charged to perhaps three quarters and wants half of its charge to start: common practice.
 */
const CHARGE_WATCH = 0.08;
const CHARGE_STOP = 0.2;

/** Dangers of the car as it stands. */
export function stateHazards(car: CarState, context: HazardContext): Hazard[] {
  return [...rolling(car), ...openPlugs(car), ...engine(car), ...charge(car, context)];
}

function rolling(car: CarState): Hazard[] {
  if (car.selector === "P") return [];
  if (!car.parkingBrake)
    return [
      {
        id: "roll",
        level: "stop",
        text: "Selector out of park and the parking brake is not set: the car can roll.",
        remedy: "Set the parking brake and chock a wheel.",
      },
    ];
  return [
    {
      id: "selector",
      level: "watch",
      text: `Selector in ${car.selector}. With the driver's door open the car chimes and does not go to sleep.`,
      remedy: "Back to park as soon as the panel is out.",
    },
  ];
}

function openPlugs(car: CarState): Hazard[] {
  if (car.key === "off" || car.battery !== "connected" || car.plugsOpen.length === 0) return [];
  if (car.plugsOpen.some((p) => p.airbag))
    return [
      {
        id: "airbag-key",
        level: "stop",
        text: "Ignition on while an airbag plug is open: the airbag unit stores a fault that stays.",
        remedy: "Ignition off. Close the airbag plug with the battery off before the key is turned again.",
      },
    ];
  return [
    {
      id: "key-open",
      level: "watch",
      text: "Ignition on while factory plugs are open: control units may store faults.",
      remedy: "Ignition off before a plug is opened or closed.",
    },
  ];
}

function engine(car: CarState): Hazard[] {
  if (car.key !== "running") return [];
  return [
    {
      id: "engine",
      level: "stop",
      text: "The engine is running: exhaust gas kills indoors, and the car can move.",
      remedy: "Exhaust extraction on the pipe and doors open, or the engine off.",
    },
  ];
}

function charge(car: CarState, { power, now }: HazardContext): Hazard[] {
  if (!power || car.maintainer) return [];
  const hours = car.keyOnHours + hoursBetween(car.keyOnSince, now);
  const usedAh = hours * power.ignitionA;
  const part = usedAh / power.batteryAh;
  if (part < CHARGE_WATCH) return [];
  return [
    {
      id: "charge",
      level: part >= CHARGE_STOP ? "stop" : "watch",
      text: `Ignition on for ${Math.round(hours * 60)} min in all: about ${usedAh.toFixed(1)} of ${power.batteryAh} Ah are used${part >= CHARGE_STOP ? ", a start is doubtful" : ""}.`,
      remedy: "Connect a maintainer, or ignition off.",
    },
  ];
}

/** What each danger is called when the moment is over. */
const HAZARD_WORDS: Readonly<Record<string, string>> = {
  roll: "Selector out of park without the parking brake",
  selector: "Selector not in park",
  "airbag-key": "Ignition on with an airbag plug open",
  "key-open": "Ignition on with factory plugs open",
  engine: "Engine running",
  charge: "Battery low from long ignition",
  airbag: "Battery connected in an airbag zone",
  wait: "Waiting time after battery off not over",
  brake: "Parking brake not set",
  stand: "Key or selector not as the step needs it",
};

export function hazardWords(id: string): string {
  return HAZARD_WORDS[id] ?? id;
}

/** What a hazard check must know of the step to come. */
export interface Upcoming {
  title: string;
  needs: StepNeeds | null;
  airbagZone?: boolean;
  /** For a preparation step: what it changes. */
  sets?: Partial<VehicleState>;
}

/**
 * Dangers of doing a step now. A `stop` must be confirmed by the person, and the confirmation is logged. A danger of
 * the car that the step itself ends does not stand against it.
 */
export function stepHazards(car: CarState, step: Upcoming, context: HazardContext): Hazard[] {
  const after: CarState = { ...car, ...step.sets };
  const still = new Set(stateHazards(after, context).map((h) => h.id));
  const standing = stateHazards(car, context).filter((h) => h.level === "stop" && still.has(h.id));
  const coming = stateHazards(after, context).filter((h) => h.level === "stop" && !standing.some((s) => s.id === h.id));
  return [...standing, ...coming, ...(step.needs ? unmet(car, step, step.needs, context) : [])];
}

function unmet(car: CarState, step: Upcoming, needs: StepNeeds, { plan, now }: HazardContext): Hazard[] {
  const hazards: Hazard[] = [];
  if (needs.battery === "isolated") {
    const left = waitLeftMin(car, plan, now);
    const zone = step.airbagZone ? "airbag zone next" : "this step is next";
    if (car.battery !== "isolated")
      hazards.push({
        id: "airbag",
        level: "stop",
        text: `${step.title}: ${zone} and the battery is connected.`,
        remedy: "Battery negative off, then wait as the maker says.",
      });
    else if (left > 0)
      hazards.push({
        id: "wait",
        level: "stop",
        text: `${step.title}: ${zone} and the waiting time is not over.`,
        remedy: `Wait ${Math.ceil(left)} more min; steps away from the airbags may go on.`,
      });
  }
  if (!car.parkingBrake)
    hazards.push({
      id: "brake",
      level: needs.selector ? "stop" : "watch",
      text: `${step.title}: the parking brake is not set.`,
      remedy: "Set the parking brake first.",
    });
  const rest = { ...needs, battery: undefined };
  if (!allows({ ...car, parkingBrake: true }, rest)) {
    const path = prepStepsTo(plan, { ...car, parkingBrake: true }, rest);
    hazards.push({
      id: "stand",
      level: "watch",
      text: `${step.title}: key ${car.key}, selector in ${car.selector} is not as this step needs it.`,
      remedy: path
        ? `First: ${path.map((r) => lowerFirst(r.title)).join(", ")}.`
        : "No preparation leads there; split the step.",
    });
  }
  return hazards;
}

/** Minutes still to wait after the battery was taken off; 0 when it is over or the maker's figure is not known. */
export function waitLeftMin(car: CarState, plan: StripPlan, now: string): number {
  if (car.isolatedAt === null) return 0;
  return Math.max(0, (plan.batteryWaitMin ?? 0) - hoursBetween(car.isolatedAt, now) * 60);
}
