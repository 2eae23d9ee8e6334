/** What a guard looks at, and what it says. One row a kind of entry stands in `table.ts`. */
import type { AskedOf, Command, EntryKind } from "../../log/entry";
import { standWords } from "../../log/kinds/strip/stands";
import type { CarStand } from "../../log/strip-journal";
import { upperFirst } from "../../model/labels";
import type { CarState } from "../../strip/car-state";
import type { StripView } from "../../strip/view";
import type { Job } from "../job";
import type { JobPlan } from "../plan";

/** What people of a shop may do; the program itself presses as a lead. */
export const ROLES = ["technician", "lead", "counter", "read-only"] as const;
export type Role = (typeof ROLES)[number];

/** Who presses. */
export interface Person {
  name: string;
  role: Role;
}

/** What a tap may write before a press: how the car stands, and what follows from it. */
export type First = Extract<
  Command,
  {
    kind: "strip.stands" | "connect.plug" | "configure.powerCycle" | "configure.loaded" | "intake.unread" | "undo";
  }
>;

interface Said {
  guard: GuardId;
  where: string;
  problem: string;
  remedy: string;
}

/** One tap, in the words of `say`, writes `first` and goes on. */
interface Asks extends Said {
  answer: "asks";
  first: First[];
  say: string;
}

/** It is written with a reason, kept with the name. */
interface WantsReason extends Said {
  answer: "reason";
}

/** Not in this state of the car. What puts it right may be said by itself, before the press is made again. */
interface NotNow extends Said {
  answer: "refused";
  right?: { say: string; press: First[] };
}

/** Why a press is not written as it stands. */
export type Stop = Asks | WantsReason | NotNow;

/** Every guard by name. */
export type GuardId =
  /** Pressed without the right to. */
  | "right"
  /** Battery not as it must be. */
  | "battery"
  /** Key not as it must be. */
  | "key"
  /** Selector not as it must be. */
  | "selector"
  /** Parking brake not set. */
  | "brake"
  /** Airbag circuit with the battery on. */
  | "airbag"
  /** Waiting time after battery off. */
  | "wait"
  /** Module without power. */
  | "power"
  /** Noted as working while something that it needs is noted as open. */
  | "plug"
  /** Switched on with something wrong. */
  | "switch-on"
  /** Supply taken away while something is written. */
  | "running-write"
  /** Supply not sure while something is written. */
  | "supply"
  /** Car open or radio loose. */
  | "open"
  /** Hole or cut without look or signature. */
  | "lasting"
  /** Kit that does not fit. */
  | "fit"
  /** Firmware below what the kit needs. */
  | "firmware"
  /** Switches changed under power. */
  | "bank"
  /** Plugs of the kit before still in. */
  | "kit"
  /** Baseline noted after the work began. */
  | "baseline"
  /** Later entries stand on it. */
  | "stands-on-it"
  /** Car not ready. */
  | "ready"
  /** Car leaves unfinished. */
  | "unfinished";

/** A press with the state of the job in which it is pressed. */
export class Pressing {
  constructor(
    readonly job: Job,
    /** When it was done, ISO 8601, UTC. */
    readonly at: string,
    readonly who: Person,
    /** Identifier of the entry it will be. */
    readonly id: string,
  ) {}

  get plan(): JobPlan {
    return this.job.plan;
  }

  get state() {
    return this.job.state;
  }

  get view(): StripView {
    return this.job.strip(this.at);
  }

  get car(): CarState {
    return this.view.car;
  }
}

/** Looks at a press of one kind; null when nothing speaks against it. */
export type Guard<K extends EntryKind> = (press: Pressing, asked: AskedOf<K>) => Stop | null;

/** Not in this state of the car. */
export function refused(guard: GuardId, where: string, problem: string, remedy: string): Stop {
  return { guard, where, problem, remedy, answer: "refused" };
}

/** Written with a reason. */
export function wantsReason(guard: GuardId, where: string, problem: string, remedy: string): Stop {
  return { guard, where, problem, remedy, answer: "reason" };
}

/** One tap says how the car stands and goes on; null when it stands so already. */
export function asksFor(guard: GuardId, car: CarState, wanted: Partial<CarStand>, problem: string): Stop | null {
  const sets = otherwise(car, wanted);
  if (sets === null) return null;
  const say = upperFirst(standWords(sets));
  return {
    guard,
    where: "state of the car",
    problem,
    remedy: neededWords(sets),
    answer: "asks",
    say,
    first: [{ kind: "strip.stands", data: { sets } }],
  };
}

/** The same where a running engine does as well as the ignition. */
export function orRunning({ key, keyKnown }: CarState, wanted: Partial<CarStand>): Partial<CarStand> {
  if (wanted.key !== "on" || key !== "running" || !keyKnown) return wanted;
  const { key: _, ...rest } = wanted;
  return rest;
}

/** “Needed: ignition is on, selector is in R.” */
export function neededWords(sets: Partial<CarStand>): string {
  return `Needed: ${standWords(sets)}.`;
}

/** What of the wanted state is not so; null when all is. A key of which nobody knows is never as wanted. */
function otherwise(car: CarState, wanted: Partial<CarStand>): Partial<CarStand> | null {
  const fields = (Object.keys(wanted) as (keyof CarStand)[]).filter(
    (f) => car[f] !== wanted[f] || (f === "key" && !car.keyKnown),
  );
  return fields.length === 0 ? null : Object.fromEntries(fields.map((f) => [f, wanted[f]]));
}
