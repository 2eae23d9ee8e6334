import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { renderTraySheet } from "~/app/server/trays.server";
import { jobStripView } from "~/core/job/next";
import type { Route } from "./+types/trays";

/** The sheet that lies under the trays, as PDF. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  const { route } = jobStripView(job.plan, job.state, new Date().toISOString());
  const pdf = await renderTraySheet(account.shopName, job, route);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="trays-${job.row.number}.pdf"`,
    },
  });
}
