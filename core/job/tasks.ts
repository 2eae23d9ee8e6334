/** What is done with plugs and contacts on a job, and what of it is done. */
import { type ConnectTask, connectionPlan } from "../connect/connection-plan";
import type { Job } from "./job";
import type { JobPlan } from "./plan";

/** Everything that is done with plugs and contacts, in its order. */
export const connectTasks = (job: Job): ConnectTask[] =>
  job.once("tasks", () => connectionPlan(job.plan.base, job.plan.connections));

/** True for a task before the plugs that is done: by its own entry, by a step of Strip, or by a plug in its place. */
export function isTaskDone(plan: JobPlan, state: Job["state"], t: ConnectTask): boolean {
  if (t.setting) return state.made.has(t.setting);
  if (t.kind === "park") return state.tasks.has(t.id);
  // Off is what a step of Strip took off, or what something else is plugged into already.
  const taken = plan.connections.some((c) => state.plugged.has(c.link) && t.ports.some((p) => p === c.a || p === c.b));
  const step = stepOf(plan, t);
  const event = step && state.strip.stepEvents.some((d) => d.step === step.id && d.direction === "in");
  return taken || Boolean(event) || state.tasks.has(t.id);
}

/** The step of the way in that takes a plug off. */
export function stepOf(plan: JobPlan, { ports }: Pick<ConnectTask, "ports">) {
  return plan.steps.find((s) => s.opens?.some((o) => ports.includes(o.a) && ports.includes(o.b)));
}
