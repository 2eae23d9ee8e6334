/** What is done with plugs and contacts on a job, in the order in which one does it. */

import { sameEnds } from "../model/compose";
import { layerOf } from "../model/kinds";
import { kitConditionWords } from "../model/kit-condition";
import { describeContact, describePort } from "../model/labels";
import { findPort } from "../model/ports";
import type { CarProfile, KitCondition, KitProfile, KitSetting, PinMove, StripPlan, StripStep } from "../model/profile";
import type { Link, PortRef, System } from "../model/types";
import { reaches } from "../strip/goals";
import { isCarried } from "./carried";

/** A connection the technician has to make. */
export interface Connection {
  link: string;
  say: string;
  kind: "kit" | "factory";
  a: PortRef;
  b: PortRef;
}

/** State of the car's supply in which a plug is touched. */
export type SupplyState = "isolated" | "keyOff" | "keyOn";

export interface ConnectTask {
  id: string;
  kind: "unplug" | "park" | "move" | "cut" | "plug";
  say: string;
  why: string;
  supply: SupplyState;
  /** Panels that lie in front of it. */
  depth: number;
  /** What it is done with. */
  ports: readonly PortRef[];
  /** It comes behind all others: it gives power, belongs to the phone, or goes back as it was. */
  last?: true;
  /** Of a plug: its connection. */
  link?: string;
  /** Of moved contacts: the setting that they make, and their cavities. */
  setting?: string;
  moves?: PinMove[];
}

/** What the order follows from. */
export interface PlanBase {
  car: CarProfile;
  kit: KitProfile;
  stock: System;
  fitted: System;
  applies(item: { when?: KitCondition }): boolean;
  sets: readonly KitSetting[];
  strip: StripPlan;
  /** Steps of the way in. */
  steps: readonly StripStep[];
}

const KIND_ORDER: Record<ConnectTask["kind"], number> = { unplug: 0, park: 1, move: 2, cut: 2, plug: 3 };

/**
 * The connection plan: what is unplugged, parked on purpose, moved, cut and plugged. Everything that comes off comes
 * first, contacts are moved before their housing goes in; within each kind the deepest place is first, and what gives
 * the kit its power is last.
 */
export function connectionPlan(base: PlanBase, connections: readonly Connection[]): ConnectTask[] {
  const kitParts = new Set(base.kit.parts.map((p) => p.id));
  const plugs = connections.map((c): ConnectTask => {
    const last = rankOf(base, kitParts, c) > 0 ? { last: true as const } : {};
    const why = plugWhy(base, c);
    return { id: c.link, kind: "plug", say: c.say, why, ...stateOf(base, [c.a, c.b]), link: c.link, ...last };
  });
  const rest = [...unplugTasks(base), ...parkTasks(base), ...moveTasks(base)];
  rest.sort((x, y) => KIND_ORDER[x.kind] - KIND_ORDER[y.kind] || y.depth - x.depth);
  return [...rest, ...plugs];
}

/**
 * Connections in the order of plugging: the deepest first; then what gives a part of the kit its power; then the phone.
 * Factory plugs that were only opened on the way come back after the kit.
 */
export function orderConnections(base: PlanBase, connections: readonly Connection[]): Connection[] {
  const kitParts = new Set(base.kit.parts.map((p) => p.id));
  const rank = (c: Connection) => rankOf(base, kitParts, c);
  const depth = new Map(connections.map((c) => [c.link, Math.max(depthOf(base, c.a), depthOf(base, c.b))]));
  return [...connections].sort(
    (x, y) => rank(x) - rank(y) || (rank(x) === 0 ? (depth.get(y.link) ?? 0) - (depth.get(x.link) ?? 0) : 0),
  );
}

/** What gives power comes behind the rest of the kit, then the phone, then what was only opened on the way. */
function rankOf({ fitted }: PlanBase, kitParts: ReadonlySet<string>, c: Connection): number {
  if (c.kind === "factory") return 3;
  if ([c.a, c.b].some(isCarried)) return 2;
  return powersKit(fitted, kitParts, c) ? 1 : 0;
}

/** True for the connection over which a device of the kit gets its feed. */
function powersKit(fitted: System, kitParts: ReadonlySet<string>, { a, b }: Pick<Link, "a" | "b">): boolean {
  return [a, b].some((end) => {
    const [id = ""] = end.split(".");
    const part = fitted.parts.find((p) => p.id === id);
    return (
      kitParts.has(id) &&
      part?.type === "device" &&
      (findPort(fitted, end)?.contacts ?? []).some(
        (c) => layerOf(c.kind) === 0 && c.kind !== "ground" && c.direction === "in",
      )
    );
  });
}

/** How many panels lie in front of a port: the longest chain of steps to the one that reaches it. */
function depthOf({ steps, strip }: PlanBase, port: PortRef): number {
  const goal = { id: port, say: port, ports: [port] };
  return Math.max(0, ...steps.filter((s) => reaches(s, goal)).map((s) => chain(strip, s.id)));
}

/** Length of the longest chain of steps up to each step; plans never change, so they are kept. */
const chains = new WeakMap<StripPlan, Map<string, number>>();

function chain(strip: StripPlan, id: string): number {
  let known = chains.get(strip);
  if (!known) {
    known = new Map();
    chains.set(strip, known);
  }
  let length = known.get(id);
  if (length === undefined) {
    const after = strip.steps.find((s) => s.id === id)?.after ?? [];
    length = 1 + Math.max(0, ...after.map((before) => chain(strip, before)));
    known.set(id, length);
  }
  return length;
}

function stateOf(base: PlanBase, ends: readonly PortRef[]): Pick<ConnectTask, "supply" | "depth" | "ports"> {
  const near = base.steps.filter((s) => ends.some((port) => reaches(s, { id: port, say: port, ports: [port] })));
  const airbag = near.some((s) => s.airbagZone || s.requires?.battery === "isolated");
  return {
    supply: airbag ? "isolated" : ends.some(isCarried) ? "keyOn" : "keyOff",
    depth: Math.max(...ends.map((p) => depthOf(base, p))),
    ports: ends,
  };
}

function plugWhy({ fitted, kit }: PlanBase, c: Connection): string {
  if (c.kind === "factory") return "It was opened on the way in.";
  const kitParts = new Set(kit.parts.map((p) => p.id));
  return powersKit(fitted, kitParts, c) ? "Last, because it gives power." : "";
}

/** Connections that are opened: those the kit goes between, and those of parts that leave the car. */
function opened({ kit, stock, applies }: PlanBase): { a: PortRef; b: PortRef; why: string }[] {
  const leaving = stock.links.flatMap((l) => {
    if (l.air) return [];
    const gone = kit.replaces.find((r) => [l.a, l.b].some((p) => p.startsWith(`${r.part}.`)));
    return gone ? [{ a: l.a, b: l.b, why: gone.why }] : [];
  });
  const between = kit.unplug.filter(applies);
  return [...between, ...leaving.filter((l) => !between.some((u) => sameEnds(u, l)))];
}

function unplugTasks(base: PlanBase): ConnectTask[] {
  return opened(base).map(({ a, b, why }) => ({
    id: `unplug ${a} ${b}`,
    kind: "unplug" as const,
    say: `${describePort(base.stock, a)} out of ${describePort(base.stock, b)}`,
    why,
    ...stateOf(base, [a, b]),
  }));
}

/** Ends that stay in the car and find no new mate. */
function parkTasks(base: PlanBase): ConnectTask[] {
  const { stock, fitted } = base;
  const used = new Set(fitted.links.flatMap((l) => [l.a, l.b]));
  const free = opened(base)
    .flatMap((o) => [o.a, o.b])
    .filter(
      (port) =>
        !used.has(port) && findPort(fitted, port)?.connector && stock.parts.some((p) => port.startsWith(`${p.id}.`)),
    )
    // A socket in a device that stays needs no parking; a plug on a wire does.
    .filter((port) => fitted.parts.find((p) => port.startsWith(`${p.id}.`))?.type !== "device");
  return [...new Set(free)].map((port) => {
    const part = fitted.parts.find((p) => port.startsWith(`${p.id}.`));
    const idle = part?.type === "lead" && !part.ports.some((p) => used.has(`${part.id}.${p.id}`));
    return {
      id: `park ${port}`,
      kind: "park" as const,
      say: idle
        ? `${part.name}: take it out, or wrap both ends and tie it back`
        : `${describePort(fitted, port)}: wrap it so that no contact is bare, tie it back`,
      why: "Nothing plugs into it any more; left loose it rattles, or touches metal.",
      ...stateOf(base, [port]),
    };
  });
}

function moveTasks(base: PlanBase): ConnectTask[] {
  return base.sets.flatMap((s): ConnectTask[] => {
    if (!s.moves?.length) return [];
    const ends = s.moves.flatMap((m) => [m.from, m.to]).map((ref) => ref.split(".").slice(0, 2).join("."));
    return [
      {
        id: `move ${s.setting}`,
        kind: s.moves.some((m) => m.cut) ? "cut" : "move",
        say: s.say,
        why: s.moves
          .map((m) => `${describeContact(base.fitted, m.from)} into ${describeContact(base.fitted, m.to)}`)
          .join("; "),
        ...stateOf(base, ends),
        setting: s.setting,
        moves: s.moves,
      },
    ];
  });
}

/** What of the kit is not used on this job, and why. */
export function staysInBox({ kit, car, stock, applies }: PlanBase): { name: string; why: string }[] {
  return kit.parts.flatMap((p) =>
    applies(p) || !p.when ? [] : [{ name: p.name, why: whyNot(kit, car, stock, p.when) }],
  );
}

function whyNot(kit: KitProfile, car: CarProfile, stock: System, when: KitCondition): string {
  const only = `Only ${kitConditionWords(kit, stock.parts, when)}`;
  return "car" in when ? `${only}; this one has ${car[when.car]}.` : `${only}.`;
}
