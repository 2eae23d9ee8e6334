/**
 * The order of steps: nothing before its prerequisites, with the fewest preparation steps, tool changes and walks round the car.
 * A sequencing problem with precedence; a beam search and moves of short blocks find a good order quickly, and an
 * exact search over all sets of done steps tells for small plans how far from the best it is.
 */
import { type OrderCost, Problem, type Progress, type Setup, type Task } from "./order-problem";

export interface Ordered {
  order: number[];
  cost: OrderCost;
}

const BEAM = 6;

/** Steps followed when moving blocks; bounds the time. */
const MAX_STEPS = 10_000;

const LONGEST_BLOCK = 3;

/** What a given order costs; null when it breaks a prerequisite or meets a step that no stand allows. */
export function costOfOrder(setup: Setup, tasks: readonly Task[], order: readonly number[]): OrderCost | null {
  return evaluate(new Problem(setup, tasks), order);
}

function evaluate(problem: Problem, order: readonly number[]): OrderCost | null {
  const count: OrderCost = { minutes: 0, prepSteps: 0, toolChanges: 0, walks: 0, waitMin: 0 };
  const done = new Uint8Array(problem.n);
  let now = problem.start;
  for (const task of order) {
    if (problem.tasks[task]?.before.some((b) => !done[b])) return null;
    const next = problem.next(now, task, count);
    if (!next) return null;
    done[task] = 1;
    now = next;
  }
  const minutes = problem.finish(now, count);
  return minutes === null ? null : { ...count, minutes };
}

/** An order that is not finished yet. */
interface Begun extends Progress {
  /** Prerequisites not done yet, by task; -1 for a task that is done. */
  open: Int16Array;
  hash: number;
  order: number[];
  /** Tasks left that want the battery connected. */
  live: number;
}

/**
 * A good order of the tasks. Among equals the order of the list stays.
 *
 * @returns null when some task can never be done
 */
export function orderTasks(setup: Setup, tasks: readonly Task[]): Ordered | null {
  const problem = new Problem(setup, tasks);
  const order = beam(problem);
  if (!order) return null;
  const better = improve(problem, order);
  const cost = evaluate(problem, better);
  return cost && { order: better, cost };
}

/** Grows orders step by step and keeps the cheapest few that differ in what is done or where the work stands. */
function beam(problem: Problem): number[] | null {
  const keys = problem.tasks.map((_, i) => Math.imul(i + 1, 0x9e3779b1) ^ Math.imul(i + 7, 0x85ebca6b));
  const opens = Int16Array.from(problem.tasks, (t) => t.before.length);
  const live = problem.tasks.filter((_, i) => problem.isLive(i)).length;
  let front: Begun[] = [{ ...problem.start, open: opens, hash: 0, order: [], live }];
  for (let step = 0; step < problem.n; step++) {
    const candidates: { from: Begun; task: number; after: Progress; live: number; least: number }[] = [];
    for (const from of front) {
      for (let task = 0; task < problem.n; task++) {
        if (from.open[task] !== 0) continue;
        const after = problem.next(from, task);
        if (!after) continue;
        const left = from.live - (problem.isLive(task) ? 1 : 0);
        candidates.push({ from, task, after, live: left, least: after.minutes + problem.toCome(after, left) });
      }
    }
    candidates.sort((a, b) => a.least - b.least || a.task - b.task);
    const seen = new Set<number>();
    const next: Begun[] = [];
    for (const c of candidates) {
      const hash = c.from.hash ^ (keys[c.task] as number);
      // What is done and where the work stands in one number.
      const name = ((hash >>> 0) * 64 + c.after.stand) * 4096 + c.after.tool * 64 + c.after.side;
      if (seen.has(name)) continue;
      seen.add(name);
      const open = c.from.open.slice();
      open[c.task] = -1;
      for (const after of problem.followers(c.task)) open[after] = (open[after] as number) - 1;
      next.push({ ...c.after, open, hash, order: [...c.from.order, c.task], live: c.live });
      if (next.length === BEAM) break;
    }
    if (next.length === 0) return null;
    front = next;
  }
  let best: { order: number[]; minutes: number } | null = null;
  for (const end of front) {
    const minutes = problem.finish(end);
    if (minutes !== null && (!best || minutes < best.minutes - 1e-9)) best = { order: end.order, minutes };
  }
  return best?.order ?? null;
}

/**
 * Moves blocks of one to three steps to other places while that saves minutes. A move is followed only until the work
 * stands as it stood before the move; from there on everything costs the same.
 */
function improve(problem: Problem, first: readonly number[]): number[] {
  let order = [...first];
  let trail = trailOf(problem, order);
  let left = MAX_STEPS;
  for (let again = true; again && left > 0; ) {
    again = false;
    for (let size = 1; size <= LONGEST_BLOCK && !again; size++) {
      for (let from = 0; from + size <= problem.n && !again; from++) {
        for (let to = 0; to + size <= problem.n && !again; to++) {
          if (to === from || left <= 0) continue;
          const moved = order.slice();
          moved.splice(to, 0, ...moved.splice(from, size));
          const low = Math.min(from, to);
          const high = Math.max(from, to) + size;
          if (!possible(problem, moved, low, high)) continue;
          const { saved, steps } = follow(problem, moved, trail, low, high);
          left -= steps;
          if (saved < 1e-9) continue;
          order = moved;
          trail = trailOf(problem, order);
          again = true;
        }
      }
    }
  }
  return order;
}

/** Where the work stands before each step of an order, and after its last. */
function trailOf(problem: Problem, order: readonly number[]): Progress[] {
  const trail = [problem.start];
  for (const task of order) trail.push(problem.next(trail.at(-1) as Progress, task) as Progress);
  return trail;
}

/** True when no task between two positions comes before a prerequisite that lies there, too. */
function possible(problem: Problem, order: readonly number[], low: number, high: number): boolean {
  for (let i = low; i < high; i++) {
    for (const before of (problem.tasks[order[i] as number] as Task).before)
      for (let k = i + 1; k < high; k++) if (order[k] === before) return false;
  }
  return true;
}

function follow(problem: Problem, order: readonly number[], trail: readonly Progress[], low: number, high: number) {
  let now = trail[low] as Progress;
  for (let i = low; i < problem.n; i++) {
    const before = trail[i] as Progress;
    if (i >= high && problem.alike(now, before)) return { saved: before.minutes - now.minutes, steps: i - low };
    const next = problem.next(now, order[i] as number);
    if (!next) return { saved: 0, steps: i - low };
    now = next;
  }
  const before = problem.finish(trail[problem.n] as Progress) ?? 0;
  return { saved: before - (problem.finish(now) ?? before), steps: problem.n - low };
}

/** Most tasks for which all orders are searched. */
export const EXACT_LIMIT = 14;

/**
 * The best order, found over all sets of done tasks. Time and memory double with each task.
 *
 * @throws {RangeError} for more than `EXACT_LIMIT` tasks
 */
export function orderExactly(setup: Setup, tasks: readonly Task[]): Ordered | null {
  if (tasks.length > EXACT_LIMIT)
    throw new RangeError(`${tasks.length} tasks: an exact search is meant for ${EXACT_LIMIT} at most.`);
  const problem = new Problem(setup, tasks);
  type Node = Progress & { order: number[] };
  let layer = new Map<number, Map<string, Node>>([[0, new Map([["", { ...problem.start, order: [] }]])]]);
  for (let step = 0; step < problem.n; step++) {
    const next = new Map<number, Map<string, Node>>();
    for (const [mask, nodes] of layer) {
      for (const node of nodes.values()) {
        for (let task = 0; task < problem.n; task++) {
          if (mask & (1 << task) || problem.tasks[task]?.before.some((b) => !(mask & (1 << b)))) continue;
          const after = problem.next(node, task);
          if (!after) continue;
          const to = mask | (1 << task);
          const table = next.get(to) ?? new Map<string, Node>();
          next.set(to, table);
          const name = problem.name(after);
          const known = table.get(name);
          if (!known || after.minutes < known.minutes - 1e-12)
            table.set(name, { ...after, order: [...node.order, task] });
        }
      }
    }
    layer = next;
  }
  let best: Ordered | null = null;
  for (const nodes of layer.values()) {
    for (const node of nodes.values()) {
      const cost = evaluate(problem, node.order);
      if (cost && (!best || cost.minutes < best.cost.minutes - 1e-9)) best = { order: node.order, cost };
    }
  }
  return best;
}
