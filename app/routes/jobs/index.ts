import { redirect } from "react-router";
import { jobOf, overview } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/index";

/** A job opens at the surface of its next action. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const job = await jobOf(context).load();
  return redirect(`/jobs/${params.job}/${overview(account, job).next.stage}`);
}
