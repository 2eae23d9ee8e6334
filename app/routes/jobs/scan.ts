import { data } from "react-router";
import { jobOf, standIn } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { scanStandIn } from "~/sim/scan";
import type { Route } from "./+types/scan";

/** Reads the fault memory of the job's stand-in car, as text. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const row = await jobOf(context).row();
  if ((await standIn(account, row)) === undefined)
    throw data("This job has no stand-in car. Type or paste what the reader shows.", { status: 404 });
  return { text: scanStandIn(row.number) };
}
