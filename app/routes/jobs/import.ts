import { createHash } from "node:crypto";
import { data, redirect } from "react-router";
import { askedOrStays } from "~/app/lib/stays";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { requireRoom } from "~/app/server/room.server";
import { person } from "~/app/server/session.server";
import { CoreError } from "~/core/model/errors";
import { ImportedBefore, importJob } from "~/db/import-job";
import { readJobBundle } from "~/profiles/job-bundle";
import type { Route } from "./+types/import";

const LIMIT_BYTES = 200_000_000;

/**
 * Imports an exported job, alone or with its files, as a new job of this shop. A file that was brought in before is
 * asked about; `again` says that it is meant.
 */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  await requireRoom(Number(request.headers.get("content-length") ?? 0));
  const form = await readForm(request, LIMIT_BYTES);
  const file = form.get("file");
  if (!(file instanceof File) || file.size === 0)
    return data({ message: "Choose a job file (JSON or zip) first.", known: null }, { status: 400 });
  const bytes = new Uint8Array(await file.arrayBuffer());
  const sha256 = createHash("sha256").update(bytes).digest();
  try {
    const { file: job, contents } = readJobBundle(bytes);
    return redirect(
      `/jobs/${await importJob(database(), account, job, sha256, { contents, again: form.has("again") })}`,
    );
  } catch (error) {
    if (error instanceof ImportedBefore) return data({ message: error.message, known: error.known }, { status: 409 });
    if (error instanceof CoreError)
      return data({ message: `${error.where}: ${error.problem} ${error.remedy}`, known: null }, { status: 422 });
    throw error;
  }
}

/** The chosen file stays in its field when the server cannot take it now. */
export const clientAction = ({ serverAction }: Route.ClientActionArgs) => askedOrStays(serverAction);

export function loader() {
  return redirect("/board");
}
