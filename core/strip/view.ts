/** Everything the Strip surface shows, computed from the plan and the log alone: on the server and on the device. */

import { emptyJournal, noteStrip } from "../log/fold";
import { everDone, offNow, type StripJournal } from "../log/strip-journal";
import { lowerFirst } from "../model/labels";
import type { CarProfile, Minutes, StripStep } from "../model/profile";
import { type CarState, carState, NEVER_QUIET, type Quiet } from "./car-state";
import { schedule } from "./critical-path";
import { expectedMinutes } from "./estimate";
import { trays } from "./fasteners";
import type { Gate } from "./gate";
import { needsOf } from "./graph";
import { type Hazard, stateHazards, waitLeftMin } from "./hazards";
import {
  coverList,
  planRoute,
  type Route,
  type StripBase,
  stepTask,
  type Task,
  tasksLeft,
  timeFor,
  toolList,
} from "./route";
import { prepStepOf } from "./vehicle-state";
import { type BackTask, wayBack } from "./way-back";

/** What the rest of the job says about the way back. */
export interface Bench {
  /** Tests of the job, how many passed and failed since the last repair. */
  tests: number;
  passed: number;
  failing: number;
  /** Tests that somebody wanted to try and could not: a call without a second phone. */
  impossible: number;
  /** Connections of the kit that are not made. */
  kitOpen: number;
}

export interface StripInput {
  base: StripBase;
  bench: Bench;
  quiet: Quiet;
  /** Factory plugs, by their second port, that were closed in Connect or in whose place the kit sits. */
  home: string[];
  power?: CarProfile["power"];
}

export interface StripView {
  route: Route;
  car: CarState;
  hazards: Hazard[];
  /** Fasteners that are out: as counted, else as the plan says. */
  screwsOut: number;
  /** Steps and preparation steps of the way in that are done, in the order in which they were done. */
  done: DoneTask[];
  left: Task[];
  /** Steps of the way in that wait until the loosely laid kit was tried, in their order. */
  later: Task[];
  /** Ticks so far, in and back, and the last of them. */
  ticks: number;
  last: { title: string; at: string; entry: string } | null;
  skipped: { id: string; title: string; reason: string }[];
  back: BackTask[];
  gate: Gate;
  /** The next thing to do here, on the way in or back; null when it is elsewhere or nothing is left. */
  next: { task: Task; direction: "in" | "back" } | null;
  tools: string[];
  covers: string[];
  time: { one: Minutes; two: Minutes; together: string[] };
}

export interface DoneTask {
  id: string;
  title: string;
  at: string;
  by: string;
  entry: string;
  /** It left something off, and that is back. */
  back: boolean;
  prepStep: boolean;
}

/**
 * The strip view of a job.
 *
 * @param now ISO 8601, UTC: waiting times and the battery's charge depend on it
 * @throws {PlanError} when the plan cannot be followed
 */
export function stripView(input: StripInput, journal: StripJournal, now: string): StripView {
  const { base } = input;
  const route = planRoute(base, journal);
  const car = carState(route.plan, journal, now, input.quiet, (p) => input.home.includes(p.b));
  const ever = everDone(journal);
  const remaining = route.steps.filter((s) => !ever.has(s.id) && !journal.skipped.has(s.id));
  const gate = gateOf(input.bench, journal);
  const waits = (s: StripStep) => gate === "open" && route.afterTrying.has(s.id);
  const left = tasksLeft(
    route,
    base,
    journal,
    car,
    remaining.filter((s) => !waits(s)),
  );
  const back = wayBack(route, base, journal, car, gate === "open");
  const context = { plan: route.plan, now, ...(input.power ? { power: input.power } : {}) };
  return {
    route,
    car,
    hazards: stateHazards(car, context),
    screwsOut: trays(car, journal).reduce((n, t) => n + t.count, 0),
    done: doneTasks(route, journal),
    left,
    later: remaining.filter(waits).map((s) => stepTask(s, base, route.because.get(s.id) ?? [])),
    ticks: journal.stepEvents.length,
    last: lastTick(route, journal),
    skipped: [...journal.skipped].flatMap(([id, reason]) => {
      const step = route.plan.steps.find((s) => s.id === id);
      return step ? [{ id, title: step.title, reason }] : [];
    }),
    back,
    gate,
    next: nextTask(left, back, gate, input.bench),
    tools: toolList(left),
    covers: coverList(remaining),
    time: times(route, left, car, now),
  };
}

/** Time and tools for the whole way of one person, in and back, on a car nobody has touched. */
export function wholeWay(base: StripBase): { in: Minutes; back: Minutes; tools: string[] } {
  const never = "1970-01-01T00:00:00Z";
  const journal = emptyJournal();
  const input = {
    base,
    bench: { tests: 0, passed: 0, failing: 0, impossible: 0, kitOpen: 0 },
    quiet: NEVER_QUIET,
    home: [],
  };
  const { left, time } = stripView(input, journal, never);
  for (const [i, task] of left.entries())
    noteStrip(
      journal,
      { kind: "strip.step", data: { step: task.id, direction: "in" } },
      { at: never, by: "", entry: `${i}` },
    );
  const { back } = stripView(input, journal, never);
  return { in: time.one, back: timeFor(back), tools: toolList([...left, ...back]) };
}

/** The task behind the identifier of a event, done or not; for checks and for the log in words. */
export function taskOf(view: StripView, id: string, direction: "in" | "back"): Task | undefined {
  const listed = (direction === "in" ? view.left : view.back).find((t) => t.id === id);
  if (listed) return listed;
  const step = view.route.plan.steps.find((s) => s.id === id);
  const prepStep = step ? undefined : prepStepOf(view.route.plan, id);
  if (!step && !prepStep) return undefined;
  const minutes = step?.minutes ?? { low: 1, likely: 1, high: 1 };
  return {
    id,
    kind: step ? "step" : "prepStep",
    title: (direction === "back" ? step?.back?.title : undefined) ?? step?.title ?? prepStep?.title ?? id,
    detail: step?.detail ?? prepStep?.detail ?? "",
    minutes: { ...minutes, jobs: 0 },
    because: [],
    ...(step ? { step } : {}),
    ...(prepStep ? { prepStep } : {}),
  };
}

/** A job without tests has nothing to prove; otherwise all must have passed, or somebody passes the gate on purpose. */
function gateOf(bench: Bench, journal: StripJournal): Gate {
  if (bench.passed === bench.tests) return "passed";
  if (bench.passed + bench.impossible === bench.tests) return "tried";
  return journal.gate ? "passedOver" : "open";
}

function nextTask(left: readonly Task[], back: readonly BackTask[], gate: StripView["gate"], bench: Bench) {
  if (left[0]) return { task: left[0], direction: "in" as const };
  const [first] = back;
  if (!first) return null;
  const direction = first.prepStep ? ("in" as const) : ("back" as const);
  if (gate !== "open") return { task: first, direction };
  // Kit and settings come first; then what leads to the bench test or may be closed before it.
  return first.behindGate || bench.kitOpen > 0 ? null : { task: first, direction };
}

function doneTasks(route: Route, journal: StripJournal): DoneTask[] {
  const off = offNow(journal);
  const seen = new Map<string, DoneTask>();
  for (const d of journal.stepEvents) {
    if (d.direction !== "in") continue;
    const step = route.plan.steps.find((s) => s.id === d.step);
    const title = step?.title ?? prepStepOf(route.plan, d.step)?.title;
    if (!title) continue;
    seen.delete(d.step);
    const reversible = Boolean(step?.panel || step?.fasteners?.length || step?.opens?.length);
    seen.set(d.step, {
      id: d.step,
      title,
      at: d.at,
      by: d.by,
      entry: d.entry,
      back: reversible && !off.has(d.step),
      prepStep: !step,
    });
  }
  return [...seen.values()];
}

function lastTick(route: Route, journal: StripJournal): StripView["last"] {
  const event = journal.stepEvents.at(-1);
  if (!event) return null;
  const step = route.plan.steps.find((s) => s.id === event.step);
  const title =
    (event.direction === "back" && step?.back?.title) || step?.title || prepStepOf(route.plan, event.step)?.title;
  return { title: title ?? event.step, at: event.at, entry: event.entry };
}

/** Minutes for what is left, alone and by two, with the waiting time and the walks; and what two can do side by side. */
function times(route: Route, left: readonly Task[], car: CarState, now: string): StripView["time"] {
  const extra = left.length > 0 ? route.cost.walks * 0.5 + route.cost.toolChanges * 0.3 : 0;
  const wait = idleMinutes(route, left, waitLeftMin(car, route.plan, now));
  const one = timeFor(left, extra + wait);
  const activities = left.map((t) => ({
    id: t.id,
    minutes: expectedMinutes(t.minutes),
    after: t.step?.after ?? [],
    ...(t.step?.side ? { side: t.step.side } : {}),
    alone: t.kind === "prepStep" && t.prepStep?.sets.battery === undefined,
  }));
  const plan = schedule(activities, 2);
  const share = one.likely > 0 ? (plan.minutes + extra / 2 + wait) / one.likely : 1;
  const two = { low: one.low * share, likely: one.likely * share, high: one.high * share };
  return { one, two, together: sideBySide(plan.shifts, left) };
}

function sideBySide(
  shifts: readonly { id: string; person: number; start: number; end: number }[],
  left: readonly Task[],
) {
  const title = (id: string) => left.find((t) => t.id === id)?.title ?? id;
  return shifts
    .filter((s) => s.person === 1)
    .map((s) => {
      const beside = shifts.filter((o) => o.person === 0 && o.start < s.end - 1e-9 && s.start < o.end - 1e-9);
      return `${title(s.id)} beside ${beside.map((o) => lowerFirst(title(o.id))).join(", ")}`;
    });
}

/** Minutes in which one person can only wait between battery and airbag zone. */
function idleMinutes(route: Route, left: readonly Task[], waitNow: number): number {
  let wait = waitNow;
  let idle = 0;
  for (const t of left) {
    if (t.prepStep?.sets.battery === "isolated") {
      wait = route.plan.batteryWaitMin ?? 0;
      continue;
    }
    if (t.step && needsOf(t.step).battery === "isolated") {
      idle += wait;
      wait = 0;
    }
    wait = Math.max(0, wait - expectedMinutes(t.minutes));
  }
  return idle;
}
