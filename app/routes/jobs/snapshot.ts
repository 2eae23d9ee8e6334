import { handsOf } from "~/app/server/hands.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import type { Route } from "./+types/snapshot";

/** The job as the step-by-step mode needs it, asked for again when somebody else added to it. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const snapshot = await handsOf(account, await jobOf(context).load());
  return Response.json(snapshot, { headers: { "Cache-Control": "no-store" } });
}
