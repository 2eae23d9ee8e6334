import { stripInput } from "~/core/job/plan";
import type { StripPlan } from "~/core/model/profile";
import { minutesOfJob } from "~/core/strip/measured-minutes";
import type { StripInput } from "~/core/strip/view";
import type { Account } from "~/db/accounts";
import { keep, recall } from "~/db/cache";
import { closedJobIds, entriesOf } from "~/db/jobs";
import { database } from "./db.server";
import type { LoadedJob } from "./jobs.server";

/** Closed jobs from which estimates are taken: the newest of the shop on the same car. */
const JOBS_MEASURED = 30;

/** Everything the strip view of a job follows from, with the minutes measured on the shop's closed jobs. */
export async function stripInputOf(account: Account, { plan, state }: LoadedJob): Promise<StripInput> {
  const { car } = plan.documents;
  const measured: Record<string, number[]> = {};
  for (const job of await closedJobIds(database(), account.shopId, car.id, JOBS_MEASURED)) {
    const minutes = await minutesOf(account, job, `${car.id}@${car.version}`, plan.strip.plan);
    for (const [step, n] of minutes) measured[step] = [...(measured[step] ?? []), n];
  }
  return stripInput(plan, state, measured);
}

/** Minutes of the steps of a closed job: they never change, so its log is read once. */
async function minutesOf(
  { shopId }: Account,
  { id, version }: { id: string; version: number },
  car: string,
  plan: StripPlan,
): Promise<ReadonlyMap<string, number>> {
  const key = `minutes ${shopId} ${id} ${version} ${car}`;
  const known = recall<ReadonlyMap<string, number>>("job", key);
  if (known) return known;
  return keep("job", key, minutesOfJob(plan, await entriesOf(database(), shopId, id, version)), 2);
}
