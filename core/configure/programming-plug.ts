/**
 * The ritual of a programming plug in the diagnostic socket: ignition on, wait, plug in, the lamp blinks while it writes,
 * a steady other lamp means it may come out, then off for a while where the car needs it. Common practice; what a
 * particular plug does otherwise is in the document of its kit.
 */

export interface ProgrammingPlug {
  /** `part.setting` that it brings to its value. */
  setting: string;
  /** After the ignition, before it is plugged in. */
  waitS: { min: number; max: number };
  /** How long it writes. */
  writesS: { min: number; max: number };
  /** Lamps in words: while writing, and when it may come out. */
  writing: string;
  finished: string;
  /** Lamp that says it refuses: another car, used already. */
  refused?: string;
  /** Everything off for so long afterwards, 0 where the car does not need it. */
  restS: number;
}

/** What a person does or sees. */
export const PLUG_EVENTS = [
  "ignition",
  "pluggedIn",
  "dark",
  "writing",
  "finished",
  "refused",
  "pulledOut",
  "rested",
] as const;
export type PlugEvent = (typeof PLUG_EVENTS)[number];

export interface PlugLog {
  event: PlugEvent;
  /** ISO 8601, UTC. */
  at: string;
}

/** Where the ritual stands. */
export type PlugPhase =
  | "start"
  /** Ignition is on, the wait runs. */
  | "waiting"
  /** In the socket, no lamp yet. */
  | "in"
  | "dark"
  | "writing"
  | "finished"
  | "refused"
  /** Out before it had finished: the car may know half of it. */
  | "tooEarly"
  | "resting"
  | "done";

export interface PlugState {
  phase: PlugPhase;
  /** When this phase began; null before anything was done. */
  since: string | null;
  /** It is in the socket: the car does not leave like this. */
  inSocket: boolean;
  done: boolean;
}

const IN_SOCKET: ReadonlySet<PlugPhase> = new Set(["in", "dark", "writing", "finished", "refused"]);

/** What may follow each phase, and where it leads. */
const NEXT: Readonly<Record<PlugPhase, Partial<Record<PlugEvent, PlugPhase>>>> = {
  start: { ignition: "waiting" },
  waiting: { pluggedIn: "in" },
  in: { writing: "writing", dark: "dark", refused: "refused", finished: "finished", pulledOut: "tooEarly" },
  dark: { writing: "writing", refused: "refused", finished: "finished", pulledOut: "start" },
  writing: { finished: "finished", refused: "refused", dark: "dark", pulledOut: "tooEarly" },
  finished: { pulledOut: "resting" },
  refused: { pulledOut: "start" },
  tooEarly: { ignition: "waiting" },
  resting: { rested: "done" },
  done: { ignition: "waiting" },
};

/** Where a list of events has led; one that does not belong where it stands changes nothing. */
export function plugState(events: readonly PlugLog[], plug: Pick<ProgrammingPlug, "restS">): PlugState {
  let phase: PlugPhase = "start";
  let since: string | null = null;
  for (const { event, at } of events) {
    const next: PlugPhase | undefined = NEXT[phase][event];
    if (!next) continue;
    phase = next === "resting" && plug.restS === 0 ? "done" : next;
    since = at;
  }
  return { phase, since, inSocket: IN_SOCKET.has(phase), done: phase === "done" };
}

/** Events that can follow now. */
export function plugChoices({ phase }: PlugState): PlugEvent[] {
  return PLUG_EVENTS.filter((e) => NEXT[phase][e] !== undefined);
}

/** Why an event cannot be noted yet; null when it can. */
export function tooSoon(plug: ProgrammingPlug, state: PlugState, event: PlugEvent, at: string): string | null {
  const passedS = state.since === null ? 0 : (Date.parse(at) - Date.parse(state.since)) / 1000;
  const left = (s: number) => Math.ceil(s - passedS);
  if (event === "pluggedIn" && passedS < plug.waitS.min)
    return `The control units are still starting: wait ${left(plug.waitS.min)} s more, then plug it in.`;
  if (event === "rested" && passedS < plug.restS) return `Leave everything off for ${left(plug.restS)} s more.`;
  return null;
}
