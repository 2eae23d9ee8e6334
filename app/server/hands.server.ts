import { WRITERS } from "~/app/server/session.server";
import type { JobEntry } from "~/core/log/entry";
import type { StripInput } from "~/core/strip/view";
import type { Account } from "~/db/accounts";
import type { LoadedJob } from "./jobs.server";
import { stripInputOf } from "./strip.server";

/** Everything the hands-busy mode computes from; small enough to be kept on a device. */
export interface HandsSnapshot {
  job: { id: string; number: number; title: string };
  version: number;
  input: StripInput;
  /** Entries of the Strip surface and undos, in their order. */
  entries: JobEntry[];
  person: string;
  readOnly: boolean;
  now: string;
}

export async function handsSnapshot(account: Account, job: LoadedJob): Promise<HandsSnapshot> {
  return {
    job: { id: job.row.id, number: job.row.number, title: job.row.title },
    version: job.row.version,
    input: await stripInputOf(account, job),
    entries: job.entries.filter((e) => e.kind.startsWith("strip.") || e.kind === "undo"),
    person: account.name,
    readOnly: !WRITERS.includes(account.role) || job.state.closed !== null,
    now: new Date().toISOString(),
  };
}
