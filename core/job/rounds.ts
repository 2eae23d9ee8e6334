/** How far the three rounds of tests of a job are. */
import type { JobState } from "../log/entry";
import { oncePer } from "../model/once";
import { closingTests, type Round, roundOf } from "../prove/rounds";
import type { Test } from "../prove/tests";
import type { StripView } from "../strip/view";
import type { JobPlan } from "./plan";

/** The tests of a plan that are repeated when everything is closed; worked out when somebody asks. */
export const repeatedTests = oncePer((plan: JobPlan): Test[] => {
  const links = plan.connections.map((c) => c.link);
  return plan.steps.length > 0 ? closingTests(plan.fitted, plan.settings, plan.tests, links) : [];
});

/** True while panels are off, or still to come off. Key and selector, which every test moves, do not count. */
export function isOpen({ left, later, back }: Pick<StripView, "left" | "later" | "back">): boolean {
  return [...left, ...later, ...back].some((task) => !task.prepStep);
}

/** When the last panel went back, ISO 8601; null while the car is open, or where nothing had to come off. */
export function closedAt(state: JobState, view: Pick<StripView, "left" | "later" | "back">): string | null {
  if (isOpen(view)) return null;
  return state.strip.stepEvents.findLast((e) => e.direction === "back")?.at ?? null;
}

/** A test that is still to be tried, and in which round. */
export interface OpenTest {
  test: Test;
  round: Round;
}

/**
 * What is still to be tried, round after round. The rounds behind the closing are listed only when the car is closed:
 * before, they cannot be done.
 */
export function openTests(
  plan: JobPlan,
  state: JobState,
  view: Pick<StripView, "left" | "later" | "back">,
): OpenTest[] {
  const untried = plan.tests.filter((t) => !state.results.has(t.id));
  const bench = untried.filter((t) => roundOf(t) === "bench").map((test) => ({ test, round: "bench" as const }));
  if (isOpen(view)) return bench;
  const closed = closedAt(state, view);
  const again = closed ? repeatedTests(plan).filter((t) => (state.results.get(t.id)?.at ?? closed) < closed) : [];
  return [
    ...bench,
    ...again.map((test) => ({ test, round: "closed" as const })),
    ...untried.filter((t) => roundOf(t) === "yard").map((test) => ({ test, round: "yard" as const })),
  ];
}
