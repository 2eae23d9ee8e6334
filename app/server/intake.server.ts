import { type FinderView, finderView } from "~/core/views/finder";
import type { Account } from "~/db/accounts";
import { variantCounts } from "~/db/jobs";
import { newestDocuments } from "~/db/profiles";
import { database } from "./db.server";
import type { LoadedJob } from "./jobs.server";

/** The finder of a job with the radios of the shop's library. */
export async function finderOf(account: Account, { job }: LoadedJob, params: URLSearchParams): Promise<FinderView> {
  const counts = await variantCounts(database(), account.shopId);
  const own = (await newestDocuments(database(), account.shopId, "variant")).flatMap((p) =>
    p.document === "variant" && p.car === job.opened.car.id ? [p] : [],
  );
  return finderView(job, own, counts, params);
}
