import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { readFile, storedFile } from "~/db/files";
import type { Route } from "./+types/file";

/** The bytes of a stored bus file, streamed. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const row = await jobOf(context).row();
  const file = /^[0-9a-f-]{36}$/.test(params.file)
    ? await storedFile(database(), account.shopId, row.id, params.file)
    : null;
  if (!file) throw data("This job has no such file.", { status: 404 });
  const chunks = readFile(database(), account.shopId, file);
  const stream = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { done, value } = await chunks.next();
      if (done) controller.close();
      else controller.enqueue(value);
    },
    async cancel() {
      await chunks.return(undefined);
    },
  });
  return new Response(stream, {
    headers: {
      "Content-Type": "application/octet-stream",
      "X-File-Bytes": String(file.bytes),
      "Cache-Control": "private, max-age=3600",
    },
  });
}
