import { libraryKits } from "~/app/server/fit.server";
import { jobOf } from "~/app/server/jobs.server";
import { person, WRITERS } from "~/app/server/session.server";
import { measuredMinutes } from "~/app/server/strip.server";
import { wishesOf } from "~/core/fit/wishes";
import { pinsOf } from "~/core/job/job";
import { documentsOf, KEPT_FORMAT, type KeptNews } from "~/core/offline/kept-job";
import type { Route } from "./+types/kept";

/** The whole job for a device, so that its surfaces go on without connection. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, job, entries } = await jobOf(context).load();
  const { id, number, title, customer, version, importedBy, practice } = row;
  const others = pinsOf(entries).flatMap(({ kind, pin }) => job.outside.document(kind, pin) ?? []);
  const has = new URL(request.url).searchParams.get("documents");
  const documents = { opened: job.opened, others };
  const kept: KeptNews = {
    format: KEPT_FORMAT,
    row: { id, number, title, customer, version, importedBy, practice },
    entries: [...entries],
    currency: account.currency,
    person: account.name,
    role: account.role,
    readOnly: !WRITERS.includes(account.role),
    measured: await measuredMinutes(account, job),
    // The documents of a job are a hundred times its log, and most often the device has them.
    ...(has === documentsOf(documents) ? {} : { ...documents, wishes: wishesOf(await libraryKits(account), []) }),
  };
  return Response.json(kept, { headers: { "Cache-Control": "no-store" } });
}
