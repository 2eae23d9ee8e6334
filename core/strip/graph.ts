/** The graph of a strip plan: what must be off before what. */
import { CoreError } from "../model/errors";
import type { StripPlan, StripStep } from "../model/profile";
import { prepStepsTo } from "./prep-path";
import { PARKED } from "./vehicle-state";

/** A strip plan that cannot be followed: a loop, a step after one that does not exist, a step no car state allows. */
export class PlanError extends CoreError {}

/**
 * Checks that a plan can be followed: every step named in `after` exists, nothing waits for itself, and for each step
 * there is a state of the car that allows it.
 *
 * @throws {PlanError} naming the missing step, the loop in its order, or the step without a possible state
 */
export function checkPlan(plan: StripPlan): void {
  const byId = new Map(plan.steps.map((s) => [s.id, s]));
  if (byId.size < plan.steps.length) {
    const duplicate = plan.steps.find((s, i) => plan.steps.findIndex((t) => t.id === s.id) !== i);
    throw new PlanError(
      "strip plan",
      `the identifier “${duplicate?.id}” is used by two steps.`,
      "Give one of them another identifier.",
    );
  }
  for (const step of plan.steps) {
    const missing = step.after.find((a) => !byId.has(a));
    if (missing)
      throw new PlanError(
        place(step),
        `it comes after “${missing}”, which is not in the plan.`,
        "Add the step or correct the name.",
      );
  }
  const loop = findLoop(plan.steps);
  if (loop)
    throw new PlanError(
      "strip plan",
      `these steps wait for each other: ${[...loop, loop[0] as StripStep].map((s) => s.title).join(" → ")}.`,
      "Remove one of their “after” entries.",
    );
  for (const step of plan.steps) {
    if (prepStepsTo(plan, PARKED, needsOf(step)) === null)
      throw new PlanError(
        place(step),
        `no state of the car allows it: it asks for ${needsInWords(step)} at the same time.`,
        "Split the step, or correct what it requires.",
      );
  }
}

/** What a step needs of the car; an airbag zone asks for the battery off even when nobody wrote it down. */
export function needsOf(step: StripStep): NonNullable<StripStep["requires"]> {
  return step.airbagZone ? { ...step.requires, battery: "isolated" } : (step.requires ?? {});
}

function needsInWords(step: StripStep): string {
  const needs = needsOf(step);
  return [
    needs.battery && `battery ${needs.battery}`,
    needs.key && `key ${needs.key}`,
    needs.selector && `selector in ${needs.selector.join(" or ")}`,
  ]
    .filter(Boolean)
    .join(", ");
}

function place(step: StripStep): string {
  return `strip plan, step “${step.title}”`;
}

/** A shortest loop that a depth-first search meets, each step after the one behind it in the list; null when there is none. */
function findLoop(steps: readonly StripStep[]): StripStep[] | null {
  const byId = new Map(steps.map((s) => [s.id, s]));
  const finished = new Set<string>();
  for (const start of steps) {
    const path: StripStep[] = [];
    const stack: { step: StripStep; next: number }[] = [{ step: start, next: 0 }];
    const onPath = new Map<string, number>();
    while (stack.length > 0) {
      const top = stack.at(-1) as { step: StripStep; next: number };
      if (top.next === 0) {
        if (finished.has(top.step.id)) {
          stack.pop();
          continue;
        }
        onPath.set(top.step.id, path.length);
        path.push(top.step);
      }
      const before = byId.get(top.step.after[top.next] ?? "");
      top.next++;
      if (!before) {
        finished.add(top.step.id);
        onPath.delete(top.step.id);
        path.pop();
        stack.pop();
      } else if (onPath.has(before.id)) {
        return fromFirst(path.slice(onPath.get(before.id)).reverse(), steps);
      } else if (!finished.has(before.id)) stack.push({ step: before, next: 0 });
    }
  }
  return null;
}

/** The same loop, told from the step that comes first in the plan. */
function fromFirst(loop: readonly StripStep[], steps: readonly StripStep[]): StripStep[] {
  const first = loop.indexOf(steps.find((s) => loop.includes(s)) as StripStep);
  return [...loop.slice(first), ...loop.slice(0, first)];
}

/** All steps that must be done before a step, and the step itself. */
export function withPrerequisites(plan: StripPlan, ids: Iterable<string>): Set<string> {
  const byId = new Map(plan.steps.map((s) => [s.id, s]));
  const taken = new Set<string>();
  const open = [...ids];
  while (open.length > 0) {
    const id = open.pop() as string;
    if (taken.has(id)) continue;
    taken.add(id);
    open.push(...(byId.get(id)?.after ?? []));
  }
  return taken;
}
