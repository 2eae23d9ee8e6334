import { documentsOf, jobRow } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/documents";

/** The pinned documents of a job, for workers that compute in the browser. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  return Response.json(await documentsOf(account, await jobRow(account, params.job)));
}
