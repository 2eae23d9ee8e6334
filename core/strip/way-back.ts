/** The way back, from what was really done. */

import { offNow, type StripJournal } from "../log/strip-journal";
import { lowerFirst } from "../model/labels";
import type { StripStep } from "../model/profile";
import { needsOf } from "./graph";
import { prepStepsTo, type VehicleStateGoal } from "./prep-path";
import { type Route, ritualCounter, ritualTask, type StripBase, stepTask, type Task, withRituals } from "./route";
import { afterPrepSteps, type VehicleState } from "./vehicle-state";

export interface BackTask extends Task {
  /** It belongs to the closing: the bench test must be passed, or passed over on purpose, before. */
  behindGate: boolean;
}

const HOME: VehicleStateGoal = { connected: true };
const LEVELS = { upper: 0, middle: 1, lower: 2 };

/**
 * Everything that is off, in the order in which it goes back, with the preparation steps. Nothing goes back before what stands
 * on it; among what is possible, first what the car as it stands allows, then from top to bottom, then last out first
 * in.
 *
 * With the method that closes the upper dash early its panels come before the bench test; everything else behind it.
 * For the test the battery is connected; an airbag zone asks for it to be off again.
 *
 * @param testToCome the bench test is neither passed nor passed over
 */
export function wayBack(
  route: Route,
  base: StripBase,
  journal: StripJournal,
  from: VehicleState,
  testToCome: boolean,
): BackTask[] {
  const off = [...offNow(journal)].reverse();
  const steps = off.flatMap((id) => route.plan.steps.find((s) => s.id === id) ?? []).filter(leavesSomething);
  const early = base.closing === "upperEarly" ? closedUpwards(steps) : [];
  const late = steps.filter((s) => !early.includes(s));
  const times = ritualCounter(journal);
  const tasks: BackTask[] = [];
  let stand = from;
  const follow = (list: readonly StripStep[], end: VehicleStateGoal | null, behindGate: boolean) => {
    const ordered = order(route, list, stand, steps);
    for (const t of withRituals(route, base, journal, stand, ordered, end, times)) {
      tasks.push({ ...(t.step ? backTask(t.step, base) : t), behindGate });
      if (t.prepStep) stand = { ...stand, ...t.prepStep.sets };
    }
  };
  follow(early, null, false);
  // The bench test needs the battery; key and selector are moved by the tests themselves.
  const needsPower = testToCome && stand.battery === "isolated" && steps.length > 0;
  const test = needsPower ? prepStepsTo(route.plan, stand, HOME) : [];
  for (const prepStep of test ?? []) {
    tasks.push({ ...ritualTask(prepStep, times(prepStep.id)), behindGate: false });
    stand = { ...stand, ...prepStep.sets };
  }
  const untouched =
    steps.length === 0 && stand.battery === "connected" && stand.key === "off" && stand.selector === "P";
  follow(late, untouched ? null : HOME, true);
  return tasks;
}

/** A step that only covers or looks leaves nothing to put back. */
function leavesSomething(step: StripStep): boolean {
  return Boolean(step.panel || step.fasteners?.length || step.opens?.length);
}

/** Panels of the upper dash, as far as nothing else that is off stands under them. */
function closedUpwards(steps: readonly StripStep[]): StripStep[] {
  const upper = new Set(steps.filter((s) => s.level === "upper"));
  for (let again = true; again; ) {
    again = false;
    for (const s of upper) {
      if (!steps.some((t) => t.after.includes(s.id) && !upper.has(t))) continue;
      upper.delete(s);
      again = true;
    }
  }
  return [...upper];
}

function order(route: Route, list: readonly StripStep[], from: VehicleState, all: readonly StripStep[]): StripStep[] {
  const below = stepsBelow(all);
  const left = new Set(list);
  const result: StripStep[] = [];
  let stand = from;
  while (left.size > 0) {
    // What stands on a step goes back first; steps outside of the list are back already or come later on purpose.
    const possible = [...left].filter((s) => ![...left].some((t) => below.get(t.id)?.has(s.id)));
    const priced = possible.map((step) => {
      const path = prepStepsTo(route.plan, stand, needsOf(step)) ?? [];
      return { step, path, cost: path.reduce((n, r) => n + r.minutes, 0) };
    });
    priced.sort(
      (a, b) =>
        a.cost - b.cost ||
        LEVELS[a.step.level ?? "middle"] - LEVELS[b.step.level ?? "middle"] ||
        list.indexOf(a.step) - list.indexOf(b.step),
    );
    const next = priced[0];
    if (!next) break;
    stand = afterPrepSteps(stand, next.path);
    left.delete(next.step);
    result.push(next.step);
  }
  return result;
}

/** For each step the steps that had to be off before it, directly or through others that are off. */
function stepsBelow(all: readonly StripStep[]): Map<string, Set<string>> {
  const byId = new Map(all.map((s) => [s.id, s]));
  const below = new Map<string, Set<string>>();
  const visit = (step: StripStep): Set<string> => {
    const known = below.get(step.id);
    if (known) return known;
    const own = new Set<string>();
    below.set(step.id, own);
    for (const id of step.after) {
      const before = byId.get(id);
      if (!before) continue;
      own.add(id);
      for (const deeper of visit(before)) own.add(deeper);
    }
    return own;
  };
  for (const step of all) visit(step);
  return below;
}

/** A step in the words of the way back: hooks first, parts moved over, clips, plugs with their locks, screws. */
function backTask(step: StripStep, base: StripBase): Task {
  const words = step.back ?? { title: `Undo: ${lowerFirst(step.title)}`, detail: "" };
  return { ...stepTask(step, base, []), title: words.title, detail: words.detail };
}
