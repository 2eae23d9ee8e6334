import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { experienceOf } from "~/db/jobs";
import type { Route } from "./+types/documents";

/** The pinned documents of a job and what was repaired on the shop's closed jobs, for the worker that judges. */
export async function loader({ context }: Route.LoaderArgs) {
  const { job } = await jobOf(context).load();
  const experience = await experienceOf(database(), person(context).shopId, job.documents.kit.id);
  return Response.json({ documents: job.documents, experience });
}
