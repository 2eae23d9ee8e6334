import { jobOf } from "~/app/server/jobs.server";
import { renderTraySheet } from "~/app/server/trays.server";
import type { Route } from "./+types/trays";

/** The sheet that lies under the trays, as PDF. */
export async function loader({ context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const job = await source.load();
  const { route } = job.job.strip(source.now);
  const pdf = await renderTraySheet(source.account.shopName, job, route);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="trays-${job.row.number}.pdf"`,
    },
  });
}
