import { csvFile } from "~/app/server/csv.server";
import { jobOf } from "~/app/server/jobs.server";
import { connectionTable } from "~/core/connect/table";
import type { Route } from "./+types/connections";

/** The connections contact by contact, as CSV. */
export async function loader({ context }: Route.LoaderArgs) {
  const { plan, row } = await jobOf(context).load();
  return csvFile(connectionTable(plan.fitted, plan.connections), `connections-${row.number}.csv`);
}
