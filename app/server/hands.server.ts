import { WRITERS } from "~/app/server/session.server";
import { stripInput } from "~/core/job/plan";
import { type HandsSnapshot, SNAPSHOT_FORMAT } from "~/core/offline/snapshot";
import type { Account } from "~/db/accounts";
import type { LoadedJob } from "./jobs.server";
import { measuredMinutes } from "./strip.server";

/** The job as the step-by-step mode keeps it. */
export async function handsSnapshot(account: Account, job: LoadedJob): Promise<HandsSnapshot> {
  return {
    format: SNAPSHOT_FORMAT,
    job: { id: job.row.id, number: job.row.number, title: job.row.title },
    version: job.row.version,
    input: stripInput(job.plan, job.state, await measuredMinutes(account, job.job)),
    entries: job.entries.filter((e) => e.kind.startsWith("strip.") || e.kind === "undo"),
    person: account.name,
    readOnly: !WRITERS.includes(account.role) || job.state.closed !== null,
    now: new Date().toISOString(),
  };
}
