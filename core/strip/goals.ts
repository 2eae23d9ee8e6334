/** What a job has to reach in the car: plugs to open and to fill, and places for module and leads. */
import type { Choices } from "../model/compose";
import { conditionTest, kitPartIds, resolveChoices } from "../model/compose";
import { describePort, lowerFirst } from "../model/labels";
import type { CarProfile, KitProfile, Reach, StripPlan, StripStep } from "../model/profile";
import type { PortRef, System } from "../model/types";

export interface Goal {
  id: string;
  /** In words, for the reason of a step. */
  say: string;
  /** One of these ports is enough: the two ends of a connection lie together. */
  ports?: PortRef[];
  place?: string;
  /** A step that the technician wants for its own sake. */
  step?: string;
  /** It is about where things lie in the end: nothing works better or worse for it. */
  final?: true;
}

/**
 * The goals of a kit on a car: connections it opens, ends in the car that it fills, connections of parts that leave
 * the car, places it asks for.
 *
 * @param moved place by part, where the technician put it elsewhere than the kit's profile says
 */
export function goalsOf(
  car: CarProfile,
  stock: System,
  kit: KitProfile,
  choices: Choices,
  moved: ReadonlyMap<string, string> = new Map(),
): Goal[] {
  const applies = conditionTest(car, stock, resolveChoices(kit, choices));
  const kitParts = kitPartIds(kit);
  const inCar = (port: PortRef) => {
    const part = port.split(".")[0] ?? "";
    return !kitParts.has(part) && stock.parts.some((p) => p.id === part);
  };
  const goals = new Map<string, Goal>();
  const connection = (a: PortRef, b: PortRef) => {
    const id = [a, b].sort().join(" – ");
    if (!goals.has(id)) goals.set(id, { id, say: describePort(stock, a), ports: [a, b] });
  };
  for (const u of kit.unplug.filter(applies)) connection(u.a, u.b);
  const leaving = new Set(kit.replaces.map((r) => r.part));
  for (const l of stock.links)
    if (!l.air && [l.a, l.b].some((p) => leaving.has(p.split(".")[0] ?? ""))) connection(l.a, l.b);
  for (const k of kit.plug.filter(applies)) {
    if (k.air) continue;
    for (const port of [k.a, k.b]) {
      const known = [...goals.values()].some((g) => g.ports?.includes(port));
      if (inCar(port) && !known) goals.set(port, { id: port, say: describePort(stock, port), ports: [port] });
    }
  }
  for (const { place, why } of placesToReach(kit, applies, moved))
    goals.set(`place ${place}`, { id: `place ${place}`, say: `${place}: ${lowerFirst(why)}`, place, final: true });
  return [...goals.values()];
}

/** Places that the kit asks for, with what was put elsewhere at its new place. */
function placesToReach(
  kit: KitProfile,
  applies: ReturnType<typeof conditionTest>,
  moved: ReadonlyMap<string, string>,
): { place: string; why: string }[] {
  const leads = (kit.leads ?? []).filter(applies);
  const left = new Set(leads.filter((l) => moved.has(l.part)).map((l) => l.to));
  const stay = (kit.reach ?? []).filter(applies).filter((r) => (r.holds ? !moved.has(r.holds) : !left.has(r.place)));
  const put = kit.parts
    .filter(applies)
    .flatMap((p) => (moved.has(p.id) ? [{ place: moved.get(p.id) ?? "", why: `${p.name} lies there` }] : []));
  return [...stay, ...put];
}

/** True when a goal lies within a reach. */
function within(reach: Reach | undefined, goal: Goal): boolean {
  if (!reach) return false;
  if (goal.place !== undefined) return reach.places?.includes(goal.place) ?? false;
  return (goal.ports ?? []).some(
    (port) => reach.ports?.includes(port) || reach.parts?.includes(port.split(".")[0] ?? ""),
  );
}

/** True when a step brings a goal within reach: by what it says it reaches, or because it opens the plug. */
export function reaches(step: StripStep, goal: Goal): boolean {
  if (goal.step !== undefined) return step.id === goal.step;
  if (within(step.reaches, goal)) return true;
  return (goal.ports ?? []).some((port) => step.opens?.some((o) => o.a === port || o.b === port));
}

/** True when nothing has to come off for a goal. */
export function isFree(plan: StripPlan, goal: Goal): boolean {
  return within(plan.free, goal);
}

/** A plan in which no step says what it reaches is a plain list: all of it is followed. */
export function isPlainList(plan: StripPlan): boolean {
  return plan.steps.every((s) => s.reaches === undefined);
}
