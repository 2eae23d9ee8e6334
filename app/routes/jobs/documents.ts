import { jobOf } from "~/app/server/jobs.server";
import type { Route } from "./+types/documents";

/** The pinned documents of a job, for workers that compute in the browser. */
export async function loader({ context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  return Response.json(job.documents);
}
