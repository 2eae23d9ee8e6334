/** Dangers of the car as it stands. What they mean for a press is in the table of guards. */

import type { CarProfile, StripPlan } from "../model/profile";
import { type CarState, hoursBetween } from "./car-state";

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
  if (car.key === "off" || !car.keyKnown || car.battery !== "connected" || car.plugsOpen.length === 0) return [];
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
  if (car.key !== "running" || !car.keyKnown) return [];
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

/** Minutes still to wait after the battery was taken off; 0 when it is over or the maker's figure is not known. */
export function waitLeftMin(car: CarState, plan: StripPlan, now: string): number {
  if (car.isolatedAt === null) return 0;
  return Math.max(0, (plan.batteryWaitMin ?? 0) - hoursBetween(car.isolatedAt, now) * 60);
}
