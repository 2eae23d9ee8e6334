/** The smallest set of steps that reaches all goals. */
import type { StripPlan, StripStep } from "../model/profile";
import { expectedMinutes } from "./estimate";
import { type Goal, isFree, reaches } from "./goals";
import { needsOf } from "./graph";

export interface Selection {
  /** Identifiers of the steps, in the order of the plan. */
  steps: string[];
  /** For each step the goals for which it is taken, itself or as a way to others. */
  because: ReadonlyMap<string, string[]>;
  /** Goals that no step of the plan reaches. */
  unreached: Goal[];
  /** Expected minutes of the steps, with battery and selector preparation steps. */
  minutes: number;
  /** False when the search was cut off; the set is then a good one, perhaps not the best. */
  exact: boolean;
}

/** Minutes that the battery and the selector cost once when any step needs them; orders sets, common practice. */
const BATTERY_MIN = 14;
const SELECTOR_MIN = 2;
const LARGEST_SEARCH = 20_000;

/**
 * Chooses the steps for the goals with the fewest expected minutes. Goals with one way are taken at once; between
 * several ways a branch-and-bound search decides.
 *
 * @param plan checked with `checkPlan`
 */
export function selectSteps(plan: StripPlan, goals: readonly Goal[]): Selection {
  const wanted = goals.filter((g) => !isFree(plan, g));
  const ways = wanted.map((goal) => ({
    goal,
    by: plan.steps.flatMap((s, i) => (reaches(s, goal) ? [i] : [])),
  }));
  const unreached = ways.filter((w) => w.by.length === 0).map((w) => w.goal);
  const open = ways.filter((w) => w.by.length > 0).sort((a, b) => a.by.length - b.by.length);
  const search = new Search(plan);
  const found = search.run(open.map((w) => w.by));
  const chosen = plan.steps.filter((_, i) => found.taken[i] === 1);
  return {
    steps: chosen.map((s) => s.id),
    because: reasons(
      chosen,
      open.map((w) => w.goal),
    ),
    unreached,
    minutes: found.cost,
    exact: search.nodes < LARGEST_SEARCH,
  };
}

class Search {
  nodes = 0;
  private readonly closure: Uint8Array[];
  private readonly minutes: number[];
  private readonly battery: Uint8Array;
  private readonly selector: Uint8Array;
  private best: { taken: Uint8Array; cost: number } | null = null;

  constructor(private readonly plan: StripPlan) {
    const { steps } = plan;
    const index = new Map(steps.map((s, i) => [s.id, i]));
    this.minutes = steps.map((s) => expectedMinutes(s.minutes));
    this.battery = Uint8Array.from(steps, (s) => (needsOf(s).battery ? 1 : 0));
    this.selector = Uint8Array.from(steps, (s) => (needsOf(s).selector ? 1 : 0));
    this.closure = steps.map(() => new Uint8Array(0));
    const visit = (i: number): Uint8Array => {
      const existing = this.closure[i] as Uint8Array;
      if (existing.length > 0) return existing;
      const own = new Uint8Array(steps.length);
      own[i] = 1;
      this.closure[i] = own;
      for (const a of (steps[i] as StripStep).after) {
        const before = visit(index.get(a) as number);
        for (let k = 0; k < own.length; k++) if (before[k]) own[k] = 1;
      }
      return own;
    };
    for (let i = 0; i < steps.length; i++) visit(i);
  }

  run(goals: readonly number[][]): { taken: Uint8Array; cost: number } {
    const taken = new Uint8Array(this.plan.steps.length);
    const left: number[][] = [];
    for (const by of goals) {
      if (by.length === 1) this.take(taken, by[0] as number);
      else left.push(by);
    }
    this.best = null;
    this.branch(taken, left);
    return this.best ?? { taken, cost: this.cost(taken) };
  }

  private branch(taken: Uint8Array, goals: readonly number[][]): void {
    const cost = this.cost(taken);
    if (this.best && cost >= this.best.cost - 1e-9) return;
    const left = goals.filter((by) => !by.some((i) => taken[i]));
    if (left.length === 0) {
      this.best = { taken, cost };
      return;
    }
    if (this.best && ++this.nodes >= LARGEST_SEARCH) return;
    // Every goal costs at least its cheapest way: the dearest of these is a lower bound of what is still to come.
    const priced = left.map((by) => by.map((i) => this.with(taken, i)).sort((a, b) => a.cost - b.cost));
    const bound = Math.max(...priced.map((ways) => ways[0]?.cost ?? 0));
    if (this.best && bound >= this.best.cost - 1e-9) return;
    const dearest = priced.reduce((a, b) => ((b[0]?.cost ?? 0) > (a[0]?.cost ?? 0) ? b : a));
    for (const way of dearest) this.branch(way.taken, left);
  }

  private with(taken: Uint8Array, i: number): { taken: Uint8Array; cost: number } {
    const next = taken.slice();
    this.take(next, i);
    return { taken: next, cost: this.cost(next) };
  }

  private take(taken: Uint8Array, i: number): void {
    const closure = this.closure[i] as Uint8Array;
    for (let k = 0; k < closure.length; k++) if (closure[k]) taken[k] = 1;
  }

  private cost(taken: Uint8Array): number {
    let sum = 0;
    let battery = 0;
    let selector = 0;
    for (let i = 0; i < taken.length; i++) {
      if (!taken[i]) continue;
      sum += this.minutes[i] as number;
      battery |= this.battery[i] as number;
      selector |= this.selector[i] as number;
    }
    return sum + battery * BATTERY_MIN + selector * SELECTOR_MIN;
  }
}

/** Walks from the steps that reach a goal to everything they stand on. */
function reasons(chosen: readonly StripStep[], goals: readonly Goal[]): Map<string, string[]> {
  const byId = new Map(chosen.map((s) => [s.id, s]));
  const because = new Map<string, string[]>();
  for (const goal of goals) {
    const seen = new Set<string>();
    const open = chosen.filter((s) => reaches(s, goal)).map((s) => s.id);
    while (open.length > 0) {
      const id = open.pop() as string;
      if (seen.has(id)) continue;
      seen.add(id);
      because.set(id, [...(because.get(id) ?? []), goal.say]);
      open.push(...(byId.get(id)?.after ?? []));
    }
  }
  return because;
}
