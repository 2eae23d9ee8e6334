import { WRITERS } from "~/app/server/session.server";
import type { HandsSnapshot } from "~/core/offline/snapshot";
import { handsSnapshot } from "~/core/views/hands";
import type { Account } from "~/db/accounts";
import type { LoadedJob } from "./jobs.server";
import { measuredMinutes } from "./strip.server";

/** The job as the step-by-step mode keeps it. */
export async function handsOf(account: Account, { row, job, entries }: LoadedJob): Promise<HandsSnapshot> {
  const person = { name: account.name, readOnly: !WRITERS.includes(account.role) };
  return handsSnapshot(row, job, entries, await measuredMinutes(account, job), person, new Date().toISOString());
}
