/** The route of a job into the car: the plan with the changes made on the car, the steps taken of it, their order. */

import { type AddedStep, type Differs, everDone, type StripJournal } from "../log/strip-journal";
import type { Minutes, StripPlan, StripStep } from "../model/profile";
import { type Estimate, expectedMinutes, learnMinutes, rangeOf } from "./estimate";
import type { Goal } from "./goals";
import { isPlainList, reaches } from "./goals";
import { checkPlan, needsOf, PlanError, withPrerequisites } from "./graph";
import { orderTasks } from "./order";
import type { OrderCost, Setup } from "./order-problem";
import { prepStepsTo, type VehicleStateGoal } from "./prep-path";
import { selectSteps } from "./select";
import { PARKED, type PrepStep, type VehicleState } from "./vehicle-state";

/** Everything about a job that its strip plan follows from; the same on server and device. */
export interface StripBase {
  plan: StripPlan;
  goals: Goal[];
  /** Method of closing. */
  closing: "proveFirst" | "upperEarly";
  /** The kit is laid loosely and tried before what only its places and leads need comes off. */
  laidLoosely?: boolean;
  /** Minutes measured on the shop's closed jobs, by step. */
  measured: Record<string, number[]>;
}

/** A thing to do, in the words of the way in. */
export interface Task {
  /** Identifier for the event. */
  id: string;
  kind: "prepStep" | "step" | "added";
  title: string;
  detail: string;
  minutes: Estimate;
  tool?: string;
  caution?: string;
  step?: StripStep;
  prepStep?: PrepStep;
  /** For what it is done. */
  because: string[];
}

export interface Route {
  /** The plan with what was added and split on this job. */
  plan: StripPlan;
  /** Steps in the order in which they are done. */
  steps: StripStep[];
  /** Steps before which the battery is to be off already, so that the waiting time is used. */
  offBefore: ReadonlySet<string>;
  because: ReadonlyMap<string, string[]>;
  /** Steps that wait until the loosely laid kit was tried. */
  afterTrying: ReadonlySet<string>;
  unreached: Goal[];
  cost: OrderCost;
  /** The choice of steps is proven to be the smallest. */
  exact: boolean;
}

/** Identifier of the step that covers edges and surfaces. */
const COVER = "cover";
const AT_REST: VehicleStateGoal = {};

const routes = new WeakMap<StripPlan, WeakMap<readonly Goal[], Map<string, Route>>>();

/**
 * Plans the way in: the smallest set of steps that reaches the goals, ordered, from a parked car to a car at rest. What
 * was done beside it stays on the list; the car is as it is. The same plan with the same changes is planned once.
 *
 * @throws {PlanError} when the plan cannot be followed
 */
export function planRoute(base: StripBase, journal: StripJournal): Route {
  const route = routeWith(base, journal, []);
  const chosen = new Set(route.steps.map((s) => s.id));
  const beside = [...everDone(journal)].filter((id) => !chosen.has(id) && route.plan.steps.some((s) => s.id === id));
  return beside.length === 0 ? route : routeWith(base, journal, beside.sort());
}

function routeWith(base: StripBase, journal: StripJournal, beside: readonly string[]): Route {
  const ofPlan = routes.get(base.plan) ?? new WeakMap<readonly Goal[], Map<string, Route>>();
  routes.set(base.plan, ofPlan);
  const known = ofPlan.get(base.goals) ?? new Map<string, Route>();
  ofPlan.set(base.goals, known);
  const differs = journal.notes.flatMap((n) => (n.differs ? [[n.step, n.differs]] : []));
  const key = JSON.stringify([journal.added, [...journal.wanted], [...journal.splits], differs, beside]);
  const route = known.get(key) ?? newRoute(base, journal, beside);
  known.set(key, route);
  return route;
}

function newRoute(base: StripBase, journal: StripJournal, beside: readonly string[]): Route {
  const plan = editedPlan(base.plan, journal);
  checkPlan(plan);
  const goals: Goal[] = [
    ...base.goals,
    ...[...journal.wanted].map((step) => ({ id: `step ${step}`, say: "wanted on this job", step })),
    ...journal.added.map((a) => ({ id: `step ${a.id}`, say: "added on this job", step: a.id })),
  ];
  const selection = isPlainList(plan) ? allSteps(plan) : selectSteps(plan, goals);
  const ids = withPrerequisites(plan, [...selection.steps, ...beside]);
  const chosen = withCovers(plan.steps.filter((s) => ids.has(s.id)));
  const afterTrying = base.laidLoosely ? onlyForPlaces(chosen, goals) : new Set<string>();
  const ordered = orderSteps(plan, chosen, { plan, stand: PARKED, end: AT_REST }, afterTrying);
  return { ...ordered, afterTrying, plan: { ...plan, steps: withCovers(plan.steps, chosen) }, ...rest(selection) };
}

/** Steps through which nothing is plugged: all but those that reach a goal that is not about places, and what they stand on. */
function onlyForPlaces(chosen: readonly StripStep[], goals: readonly Goal[]): Set<string> {
  const byId = new Map(chosen.map((s) => [s.id, s]));
  const wait = new Set(byId.keys());
  const keep = (id: string) => {
    if (!wait.delete(id)) return;
    for (const before of byId.get(id)?.after ?? []) keep(before);
  };
  for (const goal of goals.filter((g) => !g.final)) for (const s of chosen) if (reaches(s, goal)) keep(s.id);
  wait.delete(COVER);
  return wait;
}

function rest(s: { because: ReadonlyMap<string, string[]>; unreached: Goal[]; exact: boolean }) {
  return { because: s.because, unreached: s.unreached, exact: s.exact };
}

function allSteps(plan: StripPlan) {
  return { steps: plan.steps.map((s) => s.id), because: new Map<string, string[]>(), unreached: [], exact: true };
}

function orderSteps(plan: StripPlan, steps: readonly StripStep[], setup: Setup, last: ReadonlySet<string>) {
  const position = new Map(steps.map((s, i) => [s.id, i]));
  const first = last.size === 0 ? [] : steps.flatMap((s, i) => (last.has(s.id) ? [] : [i]));
  const tasks = steps.map((s) => ({
    id: s.id,
    needs: needsOf(s),
    minutes: expectedMinutes(s.minutes),
    ...(s.tool ? { tool: s.tool } : {}),
    ...(s.side ? { side: s.side } : {}),
    before: [...s.after.flatMap((a) => position.get(a) ?? []), ...(last.has(s.id) ? first : [])],
  }));
  const isolated = tasks.flatMap((t, i) => (t.needs.battery === "isolated" ? [i] : []));
  const off = tasks.length;
  const early = { id: "", needs: { battery: "isolated" as const }, minutes: 0, before: [], early: true };
  const ordered = orderTasks(
    setup,
    isolated.length === 0
      ? tasks
      : [...tasks.map((t, i) => (isolated.includes(i) ? { ...t, before: [...t.before, off] } : t)), early],
  );
  if (!ordered)
    throw new PlanError(
      "strip plan",
      "the steps cannot be done one after the other in any state of the car.",
      `Look at what these require: ${steps
        .filter((s) => s.requires || s.airbagZone)
        .map((s) => s.title)
        .join(", ")}.`,
    );
  const offAt = ordered.order.indexOf(off);
  return {
    plan,
    steps: ordered.order.flatMap((i) => steps[i] ?? []),
    offBefore: new Set(offAt < 0 ? [] : ordered.order.slice(offAt + 1).map((i) => (steps[i] as StripStep).id)),
    cost: ordered.cost,
  };
}

/** One step in front that covers everything the chosen steps ask to cover. */
function withCovers(steps: readonly StripStep[], chosen: readonly StripStep[] = steps): StripStep[] {
  const places = coverList(chosen);
  if (places.length === 0 || steps.some((s) => s.id === COVER)) return [...steps];
  const cover: StripStep = {
    id: COVER,
    title: `Cover: ${places.join(", ")}`,
    detail: "Cloth on flat parts, tape along edges; sharp brackets scratch trim and cut fingers.",
    after: [],
    minutes: { low: 1 + places.length * 0.5, likely: 2 + places.length, high: 3 + places.length * 2 },
    tool: "cloth and tape",
  };
  return [cover, ...steps.map((s) => (s.cover?.length ? { ...s, after: [COVER, ...s.after] } : s))];
}

/** What is to be covered, each once, in the order of the steps. */
export function coverList(steps: readonly StripStep[]): string[] {
  return [...new Set(steps.flatMap((s) => s.cover ?? []))];
}

/** Tools in the order in which they are first taken into the hand. */
export function toolList(tasks: readonly Pick<Task, "tool">[]): string[] {
  return [...new Set(tasks.flatMap((t) => t.tool ?? []))];
}

/** The plan as the car was found: with the steps that were added and split, and what was noted otherwise. */
function editedPlan(plan: StripPlan, journal: StripJournal): StripPlan {
  let steps = asFound(plan.steps, journal.notes);
  for (const [id, parts] of journal.splits) steps = steps.flatMap((s) => (s.id === id ? split(s, parts) : [s]));
  for (const added of journal.added) steps = insert(steps, added);
  // What was noted of a part of a split step counts, too.
  return { ...plan, steps: asFound(steps, journal.notes) };
}

/** Steps with the tool, counts and lengths that somebody found on the car; the last word counts. */
function asFound(steps: readonly StripStep[], notes: StripJournal["notes"]): StripStep[] {
  return steps.map((step) => {
    let found = step;
    for (const { step: id, differs } of notes) {
      if (id !== step.id || !differs) continue;
      const { tool, fasteners = [] } = differs;
      found = {
        ...found,
        ...(tool ? { tool } : {}),
        ...(found.fasteners
          ? { fasteners: found.fasteners.map((f, group) => ({ ...f, ...of(fasteners, group) })) }
          : {}),
      };
    }
    return found;
  });
}

function of(differs: NonNullable<Differs["fasteners"]>, group: number): { count?: number; lengthMm?: number } {
  const { group: _, ...found } = differs.find((d) => d.group === group) ?? { group };
  return found;
}

/**
 * A step in parts, one after the other. The screws belong to the first part, what comes off and opens to the last,
 * which keeps the identifier so that everything that waits for the step still does.
 */
function split(step: StripStep, titles: readonly string[]): StripStep[] {
  const n = titles.length;
  const share = (m: Minutes): Minutes => ({ low: m.low / n, likely: m.likely / n, high: m.high / n });
  const partId = (i: number) => `${step.id}~${i + 1}`;
  return titles.map((title, i) => {
    const last = i === n - 1;
    const { fasteners, ...bare } = step;
    const common = {
      title,
      minutes: share(step.minutes),
      after: i === 0 ? step.after : [partId(i - 1)],
    };
    if (last) return { ...bare, ...common };
    return {
      id: partId(i),
      detail: `Part ${i + 1} of: ${step.title}.`,
      ...common,
      ...(i === 0 && fasteners ? { fasteners } : {}),
      ...(step.tool ? { tool: step.tool } : {}),
      ...(step.side ? { side: step.side } : {}),
      ...(step.requires ? { requires: step.requires } : {}),
      ...(step.airbagZone ? { airbagZone: true } : {}),
    };
  });
}

const ADDED_MINUTES: Minutes = { low: 1, likely: 3, high: 10 };

function insert(steps: readonly StripStep[], { before, ...added }: AddedStep): StripStep[] {
  const next = steps.find((s) => s.id === before);
  const step: StripStep = { ...added, after: next ? next.after : [], minutes: ADDED_MINUTES };
  return next
    ? steps.flatMap((s) => (s === next ? [step, { ...s, after: [...s.after, step.id] }] : [s]))
    : [...steps, step];
}

/**
 * What is left of the way in, with the preparation steps that lead from the car as it stands to each step and back to rest as
 * soon as nothing needs them.
 */
export function tasksLeft(
  route: Route,
  base: StripBase,
  journal: StripJournal,
  stand: VehicleState,
  left: readonly StripStep[],
): Task[] {
  const end = left.length > 0 ? AT_REST : null;
  return withRituals(route, base, journal, stand, left, end, ritualCounter(journal), route.offBefore);
}

/** Puts the preparation steps between steps. `end` is how the car shall stand after the last one. */
export function withRituals(
  route: Route,
  base: StripBase,
  journal: StripJournal,
  from: VehicleState,
  steps: readonly StripStep[],
  end: VehicleStateGoal | null,
  times = ritualCounter(journal),
  early?: ReadonlySet<string>,
): Task[] {
  const tasks: Task[] = [];
  let stand = from;
  const goTo = (goal: VehicleStateGoal) => {
    for (const prepStep of prepStepsTo(route.plan, stand, goal) ?? []) {
      tasks.push(ritualTask(prepStep, times(prepStep.id)));
      stand = { ...stand, ...prepStep.sets };
    }
  };
  const needsBatteryOff = (from: number) => steps.slice(from).some((s) => needsOf(s).battery === "isolated");
  for (const [i, step] of steps.entries()) {
    if (early?.has(step.id) && needsBatteryOff(i)) goTo({ battery: "isolated" });
    goTo(needsOf(step));
    tasks.push(stepTask(step, base, route.because.get(step.id) ?? []));
  }
  if (end) goTo(end);
  return tasks;
}

/** Counts on from the preparation steps already done, so that each time has its own identifier: `key-on`, `key-on.2`. */
export function ritualCounter(journal: StripJournal): (id: string) => number {
  const counts = new Map<string, number>();
  for (const d of journal.stepEvents) {
    const id = d.step.replace(/\.\d+$/, "");
    if (d.direction === "in") counts.set(id, (counts.get(id) ?? 0) + 1);
  }
  return (id) => {
    const n = (counts.get(id) ?? 0) + 1;
    counts.set(id, n);
    return n;
  };
}

export function ritualTask(prepStep: PrepStep, time: number): Task {
  return {
    id: time === 1 ? prepStep.id : `${prepStep.id}.${time}`,
    kind: "prepStep",
    title: prepStep.title,
    detail: prepStep.detail,
    minutes: { low: prepStep.minutes, likely: prepStep.minutes, high: prepStep.minutes, jobs: 0 },
    ...(prepStep.tool ? { tool: prepStep.tool } : {}),
    ...(prepStep.caution ? { caution: prepStep.caution } : {}),
    prepStep,
    because: [],
  };
}

export function stepTask(step: StripStep, base: StripBase, because: string[]): Task {
  return {
    id: step.id,
    kind: base.plan.steps.some((s) => s.id === step.id) || step.id === COVER ? "step" : "added",
    title: step.title,
    detail: step.detail,
    minutes: learnMinutes(step.minutes, base.measured[step.id] ?? []),
    ...(step.tool ? { tool: step.tool } : {}),
    ...(step.caution ? { caution: step.caution } : {}),
    step,
    because,
  };
}

/** The time for some tasks done by one person, as a range that holds nine times of ten. */
export function timeFor(tasks: readonly Task[], extraMin = 0): Minutes {
  return rangeOf(
    tasks.map((t) => t.minutes),
    extraMin,
  );
}
