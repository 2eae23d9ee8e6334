import { redirect } from "react-router";
import { jobOf } from "~/app/server/jobs.server";
import type { Route } from "./+types/index";

/** A job opens at the surface of its next action. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const source = jobOf(context);
  const { job } = await source.load();
  return redirect(`/jobs/${params.job}/${job.next(source.now).stage}`);
}
