import { jobOf } from "~/app/server/jobs.server";
import type { Route } from "./+types/version";

/** The version of a job alone, cheap to ask often. */
export async function loader({ context }: Route.LoaderArgs) {
  const row = await jobOf(context).row();
  return new Response(String(row.version), { headers: { "Content-Type": "text/plain", "Cache-Control": "no-store" } });
}
