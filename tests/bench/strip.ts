/** Planning the way in: a large plan, and how far the order is from the best one on small plans. */
import { emptyJournal } from "../../core/log/fold";
import { costOfOrder, orderExactly, orderTasks } from "../../core/strip/order";
import { randomPlan, randomProblem } from "../../core/strip/random-plan";
import { planRoute } from "../../core/strip/route";
import { comparedOrder } from "../support/whole-order";
import { medianMs, report } from "./report";

const SMALL = 40;
const SMALL_STEPS = 11;

const large = randomPlan(11, { steps: 200, before: 2, goals: 60 });
/** A new plan object each time, since a plan once planned is remembered. */
const base = () => ({ plan: { ...large.plan }, goals: large.goals, closing: "proveFirst" as const, measured: {} });
const route = planRoute(base(), emptyJournal());
report({
  case: `plan the way in: 200 nodes, 60 goals, ${route.steps.length} steps taken`,
  value: medianMs(15, () => void planRoute(base(), emptyJournal())),
  unit: "ms",
  note: `aim: under 50; ${route.exact ? "smallest set proven" : "search for the smallest set cut off"}`,
});

const ratios: number[] = [];
const plain: number[] = [];
for (let seed = 1; seed <= SMALL; seed++) {
  const { setup, tasks } = randomProblem(seed, SMALL_STEPS);
  const best = orderExactly(setup, tasks)?.cost.minutes ?? Number.NaN;
  ratios.push((orderTasks(setup, tasks)?.cost.minutes ?? Number.NaN) / best);
  const asListed = tasks.map((_, i) => i);
  plain.push((costOfOrder(setup, tasks, asListed)?.minutes ?? Number.NaN) / best);
}
const mean = (list: readonly number[]) => list.reduce((a, b) => a + b, 0) / list.length;
const what = `cost of the order over the best one, ${SMALL} random plans of ${SMALL_STEPS} steps`;
report({
  case: `${what}, mean`,
  value: mean(ratios),
  unit: "ratio",
  peer: "order of the list",
  ratio: mean(plain) / mean(ratios),
});
report({
  case: `${what}, worst`,
  value: Math.max(...ratios),
  unit: "ratio",
  peer: "order of the list",
  ratio: Math.max(...plain) / Math.max(...ratios),
});

const whole = Array.from({ length: SMALL }, (_, i) => comparedOrder(i + 101));
report({
  case: `order of the whole job, ${SMALL} random plans of 7 steps with 4 plugs beside them: cost over the best of all orders, mean`,
  value: mean(whole.map((w) => w.woven / w.best)),
  unit: "ratio",
  peer: "steps first, then the plugs",
  ratio: mean(whole.map((w) => w.listed / w.best)) / mean(whole.map((w) => w.woven / w.best)),
});
