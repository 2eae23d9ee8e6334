import { jobOf } from "~/app/server/jobs.server";
import { isBlank } from "~/core/job/blank";
import { pinsOf } from "~/core/job/job";
import { exportEntries } from "~/profiles/job";
import type { Route } from "./+types/export";

/** The whole job as one JSON file: documents and log. Bus files stay in the shop; the log names them. */
export async function loader({ context }: Route.LoaderArgs) {
  const { row, job, entries, plan } = await jobOf(context).load();
  const { car, variant, kit } = plan.documents;
  const named = pinsOf(entries).flatMap(({ kind, pin }) => job.outside.document(kind, pin) ?? []);
  const others = [...new Set(named)].filter((d) => d !== variant && d !== kit);
  const file = {
    format: "iteron-job",
    formatVersion: 2,
    job: { title: row.title, customer: row.customer },
    documents: { car, variant: isBlank(variant) ? null : variant, kit: isBlank(kit) ? null : kit, others },
    entries: exportEntries(entries),
  };
  return new Response(JSON.stringify(file, null, 2), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="job-${row.number}.json"`,
    },
  });
}
