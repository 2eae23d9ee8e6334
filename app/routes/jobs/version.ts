import { jobRow } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/version";

/** The version of a job alone, cheap to ask often. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const row = await jobRow(person(context), params.job);
  return new Response(String(row.version), { headers: { "Content-Type": "text/plain", "Cache-Control": "no-store" } });
}
