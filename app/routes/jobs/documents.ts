import { documentsOf, loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/documents";

/** The pinned documents of a job, for workers that compute in the browser. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, state } = await loadJob(account, params.job);
  return Response.json(await documentsOf(account, row, state));
}
