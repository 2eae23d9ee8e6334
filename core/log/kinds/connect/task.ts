import { asAsked, type Kind, unknown } from "../../kind";

export interface TaskSlice {
  /** Ends parked and wires insulated. */
  tasks: Set<string>;
}

/** Something beside the plugs is done: an end parked, a wire insulated. */
export const task: Kind<"connect.task", { task: string; done: boolean }, TaskSlice> = {
  kind: "connect.task",
  empty: () => ({ tasks: new Set() }),
  fold(state, { data }) {
    if (data.done) state.tasks.add(data.task);
    else state.tasks.delete(data.task);
  },
  check: (job, { task }) => (job.task(task) === null ? unknown("task", task) : null),
  write: asAsked,
  words: ({ task, done }, job) =>
    `${job.task(task) ?? "A task that is no longer in the plan"}: ${done ? "done" : "not done"}`,
  upgrade: [],
};
