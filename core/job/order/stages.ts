/** How far each stage of a job is, from what is left to do in it. */
import { STAGES, type Stage } from "../../log/stages";
import type { Job } from "../job";
import { toldOutputs } from "../translated-modules";
import { orderOf } from "./order";

/** What is left in a stage; null where the job does not need the stage. */
export type StagesLeft = Readonly<Record<Stage, number | null>>;

/** @param now ISO 8601, UTC */
export function stagesLeft(job: Job, now: string): StagesLeft {
  const acts = job.state.closed ? [] : orderOf(job, now);
  const left = (stage: Stage) => acts.filter((a) => a.stage === stage).length;
  return { ...(Object.fromEntries(STAGES.map((s) => [s, left(s)])) as Record<Stage, number>), bus: busLeft(job) };
}

/** The bus is needed where a module is told the car by a translation, or somebody has begun to look for signals. */
function busLeft({ plan, state }: Job): number | null {
  const wanted = plan.sets.some((s) => s.means === "programming" && toldOutputs(plan, s.setting).length > 0);
  const begun = state.signals.length > 0 || state.translation !== null || state.files.some((f) => f.what === "log");
  if (!wanted && !begun) return null;
  return state.translation === null ? 1 : 0;
}
