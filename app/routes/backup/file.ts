import { createReadStream } from "node:fs";
import { stat } from "node:fs/promises";
import { createReadableStreamFromReadable } from "@react-router/node";
import { data } from "react-router";
import { shopBackupFile } from "~/app/server/backup.server";
import { person, requireRole } from "~/app/server/session.server";
import type { Route } from "./+types/file";

/** A backup of the shop, to be kept elsewhere. */
export async function loader({ params, context }: Route.LoaderArgs) {
  requireRole(person(context), ["lead"]);
  const file = await shopBackupFile(person(context).shopId, params.backup);
  if (!file) throw data("There is no such backup of your shop.", { status: 404 });
  return new Response(createReadableStreamFromReadable(createReadStream(file)), {
    headers: {
      "Content-Type": "application/x-tar",
      "Content-Length": String((await stat(file)).size),
      // It is compressed already, and whoever saves it sees how far it is.
      "Cache-Control": "no-store, no-transform",
      "Content-Disposition": `attachment; filename="${params.backup}"`,
    },
  });
}
