import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { photoType } from "~/core/job/photo";
import { readFile, storedFile } from "~/db/files";
import type { Route } from "./+types/photo";

/** A photo of the job, with the type its bytes say. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const row = await jobOf(context).row();
  const known = /^[0-9a-f-]{36}$/.test(params.photo);
  const file = known ? await storedFile(database(), account.shopId, row.id, params.photo) : null;
  if (!file) throw data("This job has no such photo.", { status: 404 });
  const pieces: Uint8Array[] = [];
  for await (const piece of readFile(database(), account.shopId, file)) pieces.push(piece);
  const bytes = Buffer.concat(pieces);
  const type = photoType(bytes);
  if (!type) throw data("This file of the job is no photo.", { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: {
      "Content-Type": type,
      "Cache-Control": "private, max-age=86400, immutable",
    },
  });
}
