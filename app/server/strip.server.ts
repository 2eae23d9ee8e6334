import { stripInput } from "~/core/job/plan";
import { measuredMinutes } from "~/core/strip/learn";
import type { StripInput } from "~/core/strip/view";
import type { Account } from "~/db/accounts";
import { closedJobsOn } from "~/db/jobs";
import { database } from "./db.server";
import type { LoadedJob } from "./jobs.server";

/** Closed jobs from which estimates are taken: the newest of the shop on the same car. */
const JOBS_MEASURED = 30;

/** Everything the strip view of a job follows from, with the minutes measured on the shop's closed jobs. */
export async function stripInputOf(account: Account, { plan, state }: LoadedJob): Promise<StripInput> {
  const jobs = await closedJobsOn(database(), account.shopId, plan.documents.car.id, JOBS_MEASURED);
  return stripInput(plan, state, measuredMinutes(plan.strip.plan, jobs));
}
