import { strToU8, Zip, ZipDeflate, ZipPassThrough } from "fflate";
import { database } from "~/app/server/db.server";
import { exportedJob } from "~/app/server/export.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { filesOf, readFile } from "~/db/files";
import { FILES, JOB_JSON } from "~/profiles/job-bundle";
import type { Route } from "./+types/export-zip";

/** The whole job as one zip: documents, log, photos and bus logs, written as it is read. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shopId } = person(context);
  const loaded = await jobOf(context).load();
  const files = await filesOf(database(), shopId, loaded.row.id);
  const body = new ReadableStream<Uint8Array>({
    async start(to) {
      const zip = new Zip((error, piece, last) => {
        if (error) return to.error(error);
        to.enqueue(piece);
        if (last) to.close();
      });
      const job = new ZipDeflate(JOB_JSON, { level: 6 });
      zip.add(job);
      job.push(strToU8(JSON.stringify(exportedJob(loaded, files), null, 2)), true);
      for (const file of files) {
        // Photos and logs are compressed already.
        const entry = new ZipPassThrough(`${FILES}${file.id}`);
        zip.add(entry);
        for await (const piece of readFile(database(), shopId, file)) entry.push(piece);
        entry.push(new Uint8Array(), true);
      }
      zip.end();
    },
  });
  return new Response(body, {
    headers: {
      "Content-Type": "application/zip",
      "Content-Disposition": `attachment; filename="job-${loaded.row.number}.zip"`,
    },
  });
}
