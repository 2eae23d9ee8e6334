import { csvFile } from "~/app/server/csv.server";
import { jobOf } from "~/app/server/jobs.server";
import { lengthsOf } from "~/core/lengths/job";
import { lengthTable } from "~/core/lengths/table";
import type { Route } from "./+types/lengths-table";

/** Leads with the length they need, and small material, as CSV. */
export async function loader({ context }: Route.LoaderArgs) {
  const { plan, state, row } = await jobOf(context).load();
  const { car, kit } = plan.documents;
  const lengths = lengthsOf(car, kit, plan.fitted, plan.applies, state.placed);
  return csvFile(lengthTable(lengths), `lengths-${row.number}.csv`);
}
