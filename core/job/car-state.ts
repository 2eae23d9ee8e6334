/** The car as the entries of a job leave it: what is off, open and powered, and what speaks against switching on. */
import type { Finding } from "../connect/rules";
import type { JobState } from "../log/entry";
import type { CarState } from "../strip/car-state";
import type { Hazard } from "../strip/hazards";
import { stripView } from "../strip/view";
import type { Job } from "./job";
import { unlocked } from "./locks";
import { type JobPlan, stripInput } from "./plan";
import { isPowered, noSupply } from "./power-now";

/** The car state strip: computed from what was done, never typed. */
export interface JobCarState extends Omit<CarState, "panelsOff" | "plugsOpen" | "fastenersOut"> {
  /** How many of each. */
  panelsOff: number;
  plugsOpen: number;
  screwsOut: number;
  modulePower: "on" | "off";
  /** Ribbons that are in and not locked. */
  locksOpen: number;
  hazards: Hazard[];
  /** What is connected so that the power must stay off; null when nothing is. */
  wrong: { where: string; text: string; remedy: string } | null;
}

/** The strip view of a job, with what the shop's closed jobs measured when that is known. */
export function jobStripView(plan: JobPlan, state: JobState, now: string, measured?: Record<string, number[]>) {
  return stripView(stripInput(plan, state, measured), state.strip, now);
}

/**
 * The car as the entries of the job leave it.
 *
 * @param now ISO 8601, UTC
 */
export function jobCarState(job: Job, now: string): JobCarState {
  const view = job.strip(now);
  const { panelsOff, plugsOpen, fastenersOut, ...car } = view.car;
  return {
    ...car,
    panelsOff: panelsOff.length,
    plugsOpen: plugsOpen.length,
    screwsOut: view.screwsOut,
    modulePower: isPowered(job.plan, job.state, view.car) ? "on" : "off",
    locksOpen: unlocked(job.plan, job.state).length,
    hazards: view.hazards,
    wrong: doNotSwitchOn(job)[0] ?? null,
  };
}

/**
 * Why the module has no power with the ignition on; null when it has.
 *
 * @param now ISO 8601, UTC
 */
export function noPower(job: Job, now: string): string | null {
  return noSupply(job.plan, job.state, job.strip(now).car);
}

/** What is connected so wrongly that nobody may switch on. */
export function doNotSwitchOn({ state, findings }: Job): Finding[] {
  // While nothing of the kit is in the car there is nothing that could be connected wrongly.
  const begun = state.plugged.size > 0 || state.tapLit !== null;
  return begun ? findings.filter((f) => f.level === "stop") : [];
}
