/** Documents of earlier releases, brought to the present schema as they are read. What is stored stays as it was. */

import { renamedFields } from "../core/library/renamed-fields";

interface Step {
  id: string;
  after: string[];
  [key: string]: unknown;
}

/**
 * A document as the present schema writes it; anything that is not an earlier form comes back unchanged, right or wrong.
 */
export function upgradeDocument(value: unknown): unknown {
  return renamedFields(withPresentSteps(value));
}

/**
 * Strip plans once held one number of minutes, one group of fasteners a step, and key, selector, brake and battery as
 * steps of their own. The planner inserts these now, so they leave the plan and what came after them moves up.
 */
function withPresentSteps(value: unknown): unknown {
  if (!isObject(value) || value.document !== "car" || !isObject(value.stripPlan)) return value;
  const { steps } = value.stripPlan;
  if (!Array.isArray(steps) || !steps.some(isEarlier)) return value;
  return { ...value, stripPlan: { ...value.stripPlan, steps: withoutRituals(steps as Step[]).map(upgradeStep) } };
}

function isEarlier(step: unknown): boolean {
  return isObject(step) && Array.isArray(step.after) && (typeof step.minutes === "number" || "sets" in step);
}

function withoutRituals(steps: readonly Step[]): Step[] {
  const byId = new Map(steps.map((s) => [s.id, s]));
  const isRitual = (s: Step | undefined) => s !== undefined && "sets" in s && !s.panel && !s.fasteners && !s.opens;
  const beyond = (id: string, seen: Set<string>): string[] => {
    const step = byId.get(id);
    if (!step || !isRitual(step) || seen.has(id)) return isRitual(step) ? [] : [id];
    seen.add(id);
    return step.after.flatMap((a) => beyond(a, seen));
  };
  return steps
    .filter((s) => !isRitual(s))
    .map((s) => ({ ...s, after: [...new Set(s.after.flatMap((a) => beyond(a, new Set())))] }));
}

function upgradeStep({ sets: _, ...step }: Step): Step {
  const { minutes, fasteners, requires } = step;
  return {
    ...step,
    ...(typeof minutes === "number" ? { minutes: { low: minutes, usual: minutes, high: minutes } } : {}),
    ...(isObject(fasteners) && !Array.isArray(fasteners) ? { fasteners: [fasteners] } : {}),
    ...(isObject(requires) && "parkingBrake" in requires ? { requires: without(requires, "parkingBrake") } : {}),
  };
}

function without(value: Record<string, unknown>, key: string): Record<string, unknown> {
  return Object.fromEntries(Object.entries(value).filter(([k]) => k !== key));
}

function isObject(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null;
}
