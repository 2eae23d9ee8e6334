import type { Job } from "~/core/job/job";
import type { StripPlan } from "~/core/model/profile";
import { minutesOfJob } from "~/core/strip/measured-minutes";
import type { Account } from "~/db/accounts";
import { keep, recall } from "~/db/cache";
import { closedJobIds, entriesOf } from "~/db/jobs";
import { database } from "./db.server";

/** Closed jobs from which estimates are taken: the newest of the shop on the same car. */
const JOBS_MEASURED = 30;

/** Minutes of the steps as measured on the shop's closed jobs of the same car, by step. */
export async function measuredMinutes({ shopId }: Account, { plan }: Job): Promise<Record<string, number[]>> {
  const { car } = plan.documents;
  const measured: Record<string, number[]> = {};
  for (const job of await closedJobIds(database(), shopId, car.id, JOBS_MEASURED)) {
    const minutes = await minutesOf(shopId, job, `${car.id}@${car.version}`, plan.strip.plan);
    for (const [step, n] of minutes) measured[step] = [...(measured[step] ?? []), n];
  }
  return measured;
}

/** Minutes of the steps of a closed job: they never change, so its log is read once. */
async function minutesOf(
  shopId: string,
  { id, version }: { id: string; version: number },
  car: string,
  plan: StripPlan,
): Promise<ReadonlyMap<string, number>> {
  const key = `minutes ${shopId} ${id} ${version} ${car}`;
  const known = recall<ReadonlyMap<string, number>>("job", key);
  if (known) return known;
  return keep("job", key, minutesOfJob(plan, await entriesOf(database(), shopId, id, version)), 2);
}
