/** One thing to do as Connect shows it: the plugs it is done with, their lead, and whether it is done. */
import { placesFor } from "../connect/as-plugged";
import type { ConnectTask } from "../connect/connection-plan";
import { jointOf, jointWires } from "../connect/joints";
import { isReversible } from "../connect/rules/plugs";
import { type LeadRoute, leadAt } from "../drawing/lead";
import type { Job } from "../job/job";
import { ribbons } from "../job/locks";
import { type Connection, isMade, type JobPlan } from "../job/plan";
import { isTaskDone } from "../job/tasks";
import { describeContact, describePort, locate } from "../model/labels";
import { findPort } from "../model/ports";
import type { PinMove } from "../model/profile";
import type { PartPhoto, Port, PortRef, System } from "../model/types";

export interface InHand {
  ports: readonly PortRef[];
  /** The lead at these ports with all its ends; null where devices sit in each other. */
  route: LeadRoute | null;
  /** The halves of the plug. */
  halves: { name: string; port: Port; moves: Readonly<Record<string, string>> }[];
  /** Parts of these ports that their documents show in photos. */
  pictured: { name: string; photos: readonly PartPhoto[] }[];
}

/** One for all, so that a page carries it once. */
const NONE: [] = [];
const NO_MOVES: Readonly<Record<string, string>> = {};

/** A plug to be made. */
export function connectionRow({ plan, state }: Job, c: Connection, task: ConnectTask | undefined) {
  return {
    ...c,
    why: task?.why ?? "",
    supply: task?.supply ?? "keyOff",
    plugged: isMade(plan, state, c),
    marked: state.plugged.has(c.link),
    wrong: state.plugAt.has(c.link) || state.turned.has(c.link),
    joint: jointOf([c.a, c.b].map((ref) => findPort(plan.fitted, ref))),
    joined: jointWires(plan.fitted, c),
    reversible: isReversible(plan.fitted, c),
    /** Its lock bar: shut or open; null where it has none. */
    lock: ribbons(plan).has(c.link) ? (state.locked.has(c.link) ? ("shut" as const) : ("open" as const)) : null,
    places: placesOf(plan, c),
    ...inHand(plan, plan.fitted, [c.a, c.b]),
  };
}

/** The places in which it fits; none where it fits in one alone, one way round. */
function placesOf(plan: JobPlan, c: Connection) {
  const places = placesFor(plan.fitted, c);
  if (places.length <= 1 && !isReversible(plan.fitted, c)) return NONE;
  return places.map((port) => ({
    port,
    name: findPort(plan.fitted, port)?.label ?? port,
    planned: port === c.b,
  }));
}

/** What comes off, is parked, moved or cut before the kit goes in. */
export function taskRow({ plan, state }: Job, task: ConnectTask) {
  const opens = task.kind === "unplug" ? plan.stock : plan.fitted;
  return { ...task, done: isTaskDone(plan, state, task), ...inHand(plan, opens, task.ports) };
}

function inHand(plan: JobPlan, system: System, ports: readonly PortRef[]): InHand {
  const parts = new Set(ports.map((ref) => locate(system, ref).part));
  const pictured = [...parts].flatMap((part) => (part?.photos ? [{ name: part.name, photos: part.photos }] : []));
  return {
    pictured: pictured.length > 0 ? pictured : NONE,
    ports,
    route: leadAt(system, ports),
    halves: [...new Set(ports)].flatMap((ref) => {
      const port = findPort(system, ref);
      return port?.connector ? [{ name: describePort(system, ref), port, moves: movesAt(plan, ref) }] : [];
    }),
  };
}

/** Contacts that come into a housing or leave it, by cavity. */
function movesAt(plan: JobPlan, port: string): Readonly<Record<string, string>> {
  const told = (m: PinMove): [string, string][] => [
    [m.from, `goes to ${describeContact(plan.fitted, m.to)}`],
    [m.to, `comes from ${describeContact(plan.fitted, m.from)}`],
  ];
  const here = plan.sets
    .flatMap((s) => s.moves ?? [])
    .flatMap(told)
    .filter(([ref]) => ref.startsWith(`${port}.`));
  if (here.length === 0) return NO_MOVES;
  return Object.fromEntries(here.map(([ref, words]) => [ref.slice(port.length + 1), words]));
}
