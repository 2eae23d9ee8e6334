import { redirect } from "react-router";
import { pressAnywhere } from "~/app/lib/kept-job";
import { jobOf } from "~/app/server/jobs.server";
import { pressOfForm } from "~/app/server/press-form.server";
import type { Route } from "./+types/log";

/** What every button of the surfaces does. */
export function action({ request, context }: Route.ActionArgs) {
  return pressOfForm(request, jobOf(context));
}

/** Without connection it is decided on the device and kept. */
export async function clientAction({ request, params, serverAction }: Route.ClientActionArgs) {
  const form = await request.clone().formData();
  return pressAnywhere(params.job, form, serverAction);
}

export function loader({ params }: Route.LoaderArgs) {
  return redirect(`/jobs/${encodeURIComponent(params.job)}`);
}
