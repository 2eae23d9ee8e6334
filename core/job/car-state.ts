/** The car as the entries of a job leave it: what is off, open and powered, and what speaks against switching on. */
import type { Finding } from "../connect/rules";
import type { JobState } from "../log/entry";
import type { CarState } from "../strip/car-state";
import type { Hazard } from "../strip/hazards";
import { stripView } from "../strip/view";
import type { Job } from "./job";
import { type JobPlan, openNow, stripInput } from "./plan";

/** The car state strip: computed from what was done, never typed. */
export interface JobCarState extends Omit<CarState, "panelsOff" | "plugsOpen" | "fastenersOut"> {
  /** How many of each. */
  panelsOff: number;
  plugsOpen: number;
  screwsOut: number;
  modulePower: "on" | "off";
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
    modulePower: noPower(job, now) ? "off" : "on",
    hazards: view.hazards,
    wrong: doNotSwitchOn(job)[0] ?? null,
  };
}

/**
 * Why the module is without power; null when it has power.
 *
 * @param now ISO 8601, UTC
 */
export function noPower(job: Job, now: string): string | null {
  const { plan, state } = job;
  if (job.strip(now).car.battery === "isolated") return "The battery is off.";
  if (state.powerOut !== null) return "Its plug is out for the power cycle.";
  const open = openNow(plan, state).openLinks ?? {};
  const left = plan.connections.filter((c) => c.kind === "kit" && c.link in open);
  if (left.length > 0)
    return left.length === 1 ? "1 connection of the kit is open." : `${left.length} connections of the kit are open.`;
  return state.plugged.size > 0 ? null : "Nothing of the kit is plugged.";
}

/** What is connected so wrongly that nobody may switch on. */
export function doNotSwitchOn({ state, findings }: Job): Finding[] {
  // While nothing of the kit is in the car there is nothing that could be connected wrongly.
  const begun = state.plugged.size > 0 || state.tapLit !== null;
  return begun ? findings.filter((f) => f.level === "stop") : [];
}
