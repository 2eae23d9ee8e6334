import { gunzipSync } from "node:zlib";
import { originWords } from "~/app/server/bus-map.server";
import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { dbcText } from "~/core/bus/dbc-statements";
import { addToDbc, dbcBytes, EMPTY_DBC } from "~/core/bus/dbc-write";
import { messagesOf } from "~/core/bus/hunt/found";
import { isGzip } from "~/core/bus/log";
import { readFile, storedFile } from "~/db/files";
import type { Route } from "./+types/bus-map";

/** The newest bus description of the job with the signals that were found added to it; nothing else is changed. */
export async function loader({ context }: Route.LoaderArgs) {
  const account = person(context);
  const { row, job } = await jobOf(context).load();
  const { files, signals } = job.state;
  const newest = files.filter((f) => f.what === "dbc").at(-1);
  const stored = newest && (await storedFile(database(), account.shopId, row.id, newest.file));
  const parts: Uint8Array[] = [];
  if (stored) for await (const part of readFile(database(), account.shopId, stored)) parts.push(part);
  const packed = Buffer.concat(parts);
  const base = isGzip(packed) ? gunzipSync(packed) : packed;
  const messages = messagesOf(signals, (s) => originWords(job, s));
  const text = addToDbc(base.length > 0 ? dbcText(base) : EMPTY_DBC, { messages });
  return new Response(Buffer.from(dbcBytes(text, base)), {
    headers: {
      "Content-Type": "application/octet-stream",
      "Content-Disposition": `attachment; filename="job-${row.number}.dbc"`,
    },
  });
}
