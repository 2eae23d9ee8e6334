import { exportedJob } from "~/app/server/export.server";
import { jobOf } from "~/app/server/jobs.server";
import type { Route } from "./+types/export";

/** The job as one JSON file: documents and log. Photos and logs stay in the shop. */
export async function loader({ context }: Route.LoaderArgs) {
  const loaded = await jobOf(context).load();
  return new Response(JSON.stringify(exportedJob(loaded, []), null, 2), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="job-${loaded.row.number}.json"`,
    },
  });
}
