import { documentsOf, loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { JobFile } from "~/profiles/job";
import type { Route } from "./+types/export";

/** The whole job as one JSON file: documents and log. Bus files stay in the shop; the log names them. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, entries } = await loadJob(account, params.job);
  const file: JobFile = {
    format: "iteron-job",
    formatVersion: 1,
    job: { title: row.title, customer: row.customer },
    documents: await documentsOf(account, row),
    entries,
  };
  return new Response(JSON.stringify(file, null, 2), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="job-${row.number}.json"`,
    },
  });
}
