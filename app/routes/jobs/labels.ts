import { jobOf } from "~/app/server/jobs.server";
import { renderLabels } from "~/app/server/labels.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/labels";

/** Flags for the leads of a job, each with its code, as PDF. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  const pdf = await renderLabels(account.shopName, job);
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="labels-${job.row.number}.pdf"`,
    },
  });
}
