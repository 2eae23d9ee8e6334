import { loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { isBlank } from "~/core/job/blank";
import type { JobFile } from "~/profiles/job";
import type { Route } from "./+types/export";

/** The whole job as one JSON file: documents and log. Bus files stay in the shop; the log names them. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, entries, plan } = await loadJob(account, params.job);
  const { car, variant, kit } = plan.documents;
  const file: JobFile = {
    format: "iteron-job",
    formatVersion: 1,
    job: { title: row.title, customer: row.customer },
    documents: { car, variant: isBlank(variant) ? null : variant, kit: isBlank(kit) ? null : kit },
    entries,
  };
  return new Response(JSON.stringify(file, null, 2), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="job-${row.number}.json"`,
    },
  });
}
