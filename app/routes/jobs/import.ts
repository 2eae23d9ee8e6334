import { data, redirect } from "react-router";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { requireRoom } from "~/app/server/room.server";
import { person } from "~/app/server/session.server";
import { CoreError } from "~/core/model/errors";
import { importJob } from "~/db/import-job";
import { readJobFile } from "~/profiles/read";
import type { Route } from "./+types/import";

const LIMIT_BYTES = 16_000_000;

/** Imports an exported job as a new job of this shop. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  await requireRoom(LIMIT_BYTES);
  const file = (await readForm(request, LIMIT_BYTES)).get("file");
  if (!(file instanceof File) || file.size === 0)
    return data({ message: "Choose a job file (JSON) first." }, { status: 400 });
  try {
    const id = await importJob(database(), account, readJobFile(await file.text()));
    return redirect(`/jobs/${id}`);
  } catch (error) {
    if (error instanceof CoreError)
      return data({ message: `${error.where}: ${error.problem} ${error.remedy}` }, { status: 422 });
    throw error;
  }
}

export function loader() {
  return redirect("/board");
}
