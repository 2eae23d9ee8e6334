import { isBlank } from "~/core/job/blank";
import { pinsOf } from "~/core/job/job";
import type { StoredFile } from "~/db/files";
import { exportEntries } from "~/profiles/job";
import type { LoadedJob } from "./jobs.server";

/** A job as it is exported. @param files that go with it */
export function exportedJob({ row, job, entries, plan }: LoadedJob, files: readonly StoredFile[]) {
  const { car, variant, kit } = plan.documents;
  const named = pinsOf(entries).flatMap(({ kind, pin }) => job.outside.document(kind, pin) ?? []);
  const others = [...new Set(named)].filter((d) => d !== variant && d !== kit);
  return {
    format: "iteron-job",
    formatVersion: 2,
    job: { title: row.title, customer: row.customer },
    documents: { car, variant: isBlank(variant) ? null : variant, kit: isBlank(kit) ? null : kit, others },
    entries: exportEntries(entries),
    ...(files.length > 0 ? { files: files.map(({ id, name, what, bytes }) => ({ id, name, what, bytes })) } : {}),
  };
}
