/** How the car stands, and the small preparation steps that change it: brake, key, selector, battery. */
import type { CarStand } from "../log/strip-journal";
import { oncePer } from "../model/once";
import type { Side, StepNeeds, StripPlan } from "../model/profile";
import type { Selector } from "../model/types";

/** What the preparation steps change, and what the planner plans. */
export type VehicleState = Pick<CarStand, "battery" | "key" | "selector" | "parkingBrake">;

/** As a car comes into the bay. */
export const PARKED: VehicleState = { battery: "connected", key: "off", selector: "P", parkingBrake: false };

export interface PrepStep {
  id: string;
  title: string;
  detail: string;
  minutes: number;
  tool?: string;
  side: Side;
  caution?: string;
  sets: Partial<VehicleState>;
}

const SHIFT_CAUTION = "On a slope without a parking brake the car rolls. Nobody in front of or behind the car.";

/** Everything that changes how the car stands. The wording is generic; times are common practice. */
function prepStepList(plan: StripPlan): PrepStep[] {
  const wait = plan.batteryWaitMin;
  const tab = plan.selectorRelease === "tab";
  const batterySide = plan.batterySide ?? "engineBay";
  const out = (to: Selector, id: string, name: string): PrepStep => ({
    id,
    title: tab ? `Release tab down, selector to ${name}` : `Foot on the brake, selector to ${name}`,
    detail: "The next panel passes the lever only there.",
    minutes: 0.5,
    side: "driver",
    caution: SHIFT_CAUTION,
    sets: { selector: to },
  });
  return [
    {
      id: "brake",
      title: "Set the parking brake and chock a wheel",
      detail: "Before anything else.",
      minutes: 1,
      side: "driver",
      caution: "On a slope without a parking brake the car rolls.",
      sets: { parkingBrake: true },
    },
    {
      id: "key-on",
      title: "Ignition on",
      detail: "Engine stays off.",
      minutes: 0.5,
      side: "driver",
      sets: { key: "on" },
    },
    {
      id: "key-accessory",
      title: "Key to accessory",
      detail: "Ignition and engine stay off.",
      minutes: 0.5,
      side: "driver",
      sets: { key: "accessory" },
    },
    out("N", "selector-out", "neutral"),
    out("D", "selector-d", "drive"),
    out("R", "selector-r", "reverse"),
    {
      id: "selector-in",
      title: "Selector back to park",
      detail: "Listen for the chime to stop.",
      minutes: 0.5,
      side: "driver",
      sets: { selector: "P" },
    },
    {
      id: "key-off",
      title: "Ignition off, key out of the car",
      detail: "Close the doors and let the car go to sleep.",
      minutes: 0.5,
      side: "driver",
      sets: { key: "off" },
    },
    {
      id: "battery-off",
      title: "Battery negative off",
      detail: wait
        ? `Then ${wait} minutes before an airbag zone is touched; other steps may go on.`
        : "Then wait as the maker says; without his figure count nothing as safe.",
      minutes: 2,
      tool: "10 mm spanner",
      side: batterySide,
      caution:
        "Needed before any plug near an airbag. Hybrid or electric: the maker's procedure, licensed people only.",
      sets: { battery: "isolated" },
    },
    {
      id: "battery-on",
      title: "Battery negative on again",
      detail: "Key off, nobody near open airbag plugs, doors closed.",
      minutes: 2,
      tool: "10 mm spanner",
      side: batterySide,
      sets: { battery: "connected" },
    },
  ];
}

/** The preparation steps of a plan by identifier. */
export const prepSteps = oncePer(
  (plan: StripPlan): ReadonlyMap<string, PrepStep> => new Map(prepStepList(plan).map((r) => [r.id, r])),
);

/** The preparation step behind the identifier of a event: `key-on.2` is the second time of `key-on`. */
export function prepStepOf(plan: StripPlan, event: string): PrepStep | undefined {
  return prepSteps(plan).get(event.replace(/\.\d+$/, ""));
}

/** True when a step may be done as the car stands. What a step does not ask for must be at rest. */
export function allows(stand: VehicleState, needs: StepNeeds): boolean {
  return (
    stand.parkingBrake &&
    (needs.battery === undefined || stand.battery === needs.battery) &&
    (needs.selector ? needs.selector.includes(stand.selector) : stand.selector === "P") &&
    // Out of park the key may stay on: it cannot be taken out there.
    (needs.key ? stand.key === needs.key : stand.key === "off" || needs.selector !== undefined)
  );
}

/** What has to be true before a preparation step is possible. */
export function possible(plan: StripPlan, stand: VehicleState, prepStep: PrepStep): boolean {
  switch (prepStep.id) {
    case "brake":
      return !stand.parkingBrake;
    case "key-on":
    case "key-accessory":
      return stand.battery === "connected" && stand.key !== prepStep.sets.key;
    case "key-off":
      return stand.key !== "off" && stand.selector === "P";
    case "selector-in":
      return stand.selector !== "P";
    case "battery-off":
      return stand.battery === "connected" && stand.key === "off";
    case "battery-on":
      return stand.battery === "isolated" && stand.key === "off";
    default: {
      const released =
        plan.selectorRelease === "tab" ||
        (stand.battery === "connected" && (stand.key === "on" || stand.key === "running"));
      return stand.parkingBrake && released && stand.selector !== prepStep.sets.selector;
    }
  }
}

/** The stand after some preparation steps. */
export function afterPrepSteps(stand: VehicleState, path: readonly PrepStep[]): VehicleState {
  return Object.assign({}, stand, ...path.map((r) => r.sets));
}
