import { csvFile } from "~/app/server/csv.server";
import { loadJob } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { connectionTable } from "~/core/connect/table";
import type { Route } from "./+types/connections";

/** The connections contact by contact, as CSV. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { plan, row } = await loadJob(person(context), params.job);
  return csvFile(connectionTable(plan.fitted, plan.connections), `connections-${row.number}.csv`);
}
