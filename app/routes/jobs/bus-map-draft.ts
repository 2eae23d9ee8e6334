import { data, redirect } from "react-router";
import { askedOrStays } from "~/app/lib/stays";
import { mapWithJob } from "~/app/server/bus-map.server";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { jobOf } from "~/app/server/jobs.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { createDraft } from "~/db/drafts";
import type { Route } from "./+types/bus-map-draft";

/** Makes a draft of the car's bus map with the signals of the job. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  const draft = String((await readForm(request)).get("draft") ?? "");
  if (!/^[0-9a-f-]{36}$/.test(draft)) throw data("The form was not complete. Load the page again.", { status: 400 });
  const { row, job } = await jobOf(context).load();
  if (job.state.signals.length === 0) throw data("No signal of this car is known yet.", { status: 409 });
  const map = await mapWithJob(account, job, row.number);
  await createDraft(database(), account.shopId, {
    id: draft,
    kind: "busMap",
    title: map.title,
    document: JSON.stringify(map),
    by: account.name,
  });
  return redirect(`/library/drafts/${draft}`);
}

/** The page stays as it is when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);

export function loader() {
  throw data(null, { status: 404 });
}
