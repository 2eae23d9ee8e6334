/** The connections of a job as its surfaces show them, and what is plugged at the moment. */
import type { Job } from "../job/job";
import { isMade } from "../job/plan";
import { connectTasks } from "../job/tasks";
import type { Link } from "../model/types";
import { connectionRow, taskRow } from "./connection-row";

/** What comes off, is parked, moved or cut before the kit goes in. */
export const tasksBefore = (job: Job) =>
  job.once("task rows", () =>
    connectTasks(job)
      .filter((t) => t.kind !== "plug")
      .map((t) => taskRow(job, t)),
  );

/** The plugs to be made. */
export const connectionRows = (job: Job) =>
  job.once("rows", () => {
    const tasks = connectTasks(job);
    return job.plan.connections.map((c) =>
      connectionRow(
        job,
        c,
        tasks.find((t) => t.link === c.link),
      ),
    );
  });

/** What is plugged now, as it is marked; what is to come off and did not is in its socket still. */
export const madeNow = (job: Job): Pick<Link, "id" | "a" | "b">[] =>
  job.once("made", () => {
    const { plan, state } = job;
    const planned = new Set(plan.connections.map((c) => c.link));
    const still = tasksBefore(job).filter((t) => t.kind === "unplug" && !t.done);
    return [
      ...plan.connections
        .filter((c) => isMade(plan, state, c))
        .map((c) => ({ id: c.link, a: c.a, b: state.plugAt.get(c.link) ?? c.b })),
      ...plan.fitted.links.filter((l) => !planned.has(l.id)),
      ...plan.stock.links.filter((l) => still.some((t) => t.ports.includes(l.a) && t.ports.includes(l.b))),
    ];
  });
