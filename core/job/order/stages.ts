/** How far each stage of a job is, from what is left to do in it. */
import { STAGES, type Stage } from "../../log/stages";
import { isBlank } from "../blank";
import type { Job } from "../job";
import { toldOutputs } from "../translated-modules";
import { orderOf } from "./order";

/** What is left in a stage; null where the job does not need it, `later` where that is not known before a kit is chosen. */
export type StagesLeft = Readonly<Record<Stage, number | null | "later">>;

/** Stages whose work follows from the kit. */
const OF_KIT: ReadonlySet<Stage> = new Set<Stage>(["strip", "connect", "configure", "prove"]);

/** @param now ISO 8601, UTC */
export function stagesLeft(job: Job, now: string): StagesLeft {
  const acts = job.state.closed ? [] : orderOf(job, now);
  const open = !job.state.closed && isBlank(job.documents.kit);
  const left = (stage: Stage) => (open && OF_KIT.has(stage) ? "later" : acts.filter((a) => a.stage === stage).length);
  return {
    ...(Object.fromEntries(STAGES.map((s) => [s, left(s)])) as Record<Stage, number | "later">),
    bus: busLeft(job),
  };
}

/** The bus is needed where a module is told the car by a translation, or somebody has begun to look for signals. */
function busLeft({ plan, state }: Job): number | null {
  const wanted = plan.sets.some((s) => s.means === "programming" && toldOutputs(plan, s.setting).length > 0);
  const begun = state.signals.length > 0 || state.translation !== null || state.files.some((f) => f.what === "log");
  if (!wanted && !begun) return null;
  return state.translation === null ? 1 : 0;
}
