/** Work beside the steps of the way in, put where nothing else can be done: into the wait for the airbags. */
import { needsOf } from "./graph";
import type { Task } from "./route";

/** Something that is done while the dash comes apart and needs no state of the car beside the key off. */
export interface Beside {
  id: string;
  minutes: number;
  /** Steps that must be off before it can be reached. */
  after: readonly string[];
  /** Other work of the list that must be done before. */
  behind: readonly string[];
  /** It may be drawn forward into a wait; else it keeps its place in the list. */
  fills: boolean;
}

export type Woven<B extends Beside> = { task: Task } | { beside: B };

/**
 * The steps that are left with the work beside them: before a step that has to wait for the airbags as much of the
 * work as fills the wait and can be reached by then; the rest behind the last step, in the order of its list.
 *
 * @param left tasks of the way in, in order
 * @param beside work that is not done, in its order
 * @param wait minutes still to wait now, and after each time the battery is taken off
 */
export function weave<B extends Beside>(
  left: readonly Task[],
  beside: readonly B[],
  wait: { now: number; each: number },
): Woven<B>[] {
  const woven: Woven<B>[] = [];
  const ahead = new Set(left.flatMap((t) => (t.step ? [t.step.id] : [])));
  const open = [...beside];
  let toWait = wait.now;
  for (const task of left) {
    if (task.step && needsOf(task.step).battery === "isolated") {
      while (toWait > 0) {
        const at = open.findIndex((b) => b.fills && isReached(b, ahead, open));
        const [next] = at < 0 ? [] : open.splice(at, 1);
        if (!next) break;
        woven.push({ beside: next });
        toWait -= next.minutes;
      }
      toWait = 0;
    }
    woven.push({ task });
    if (task.step) ahead.delete(task.step.id);
    toWait = task.prepStep?.sets.battery === "isolated" ? wait.each : Math.max(0, toWait - task.minutes.likely);
  }
  return [...woven, ...open.map((next) => ({ beside: next }))];
}

/** Nothing that lies before it is still to come. */
function isReached(work: Beside, ahead: ReadonlySet<string>, open: readonly Beside[]): boolean {
  return !work.after.some((s) => ahead.has(s)) && !work.behind.some((id) => open.some((o) => o.id === id));
}
