import { database } from "~/app/server/db.server";
import { person } from "~/app/server/session.server";
import { newestDocuments } from "~/db/profiles";
import { zipProfiles } from "~/profiles/bundle";
import type { Route } from "./+types/bundle";

/** The newest version of every profile as one zip. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shopId } = person(context);
  const profiles = [];
  for (const kind of ["car", "variant", "kit"] as const)
    profiles.push(...(await newestDocuments(database(), shopId, kind)));
  return new Response(new Uint8Array(zipProfiles(profiles)), {
    headers: {
      "Content-Type": "application/zip",
      "Content-Disposition": 'attachment; filename="iteron-library.zip"',
    },
  });
}
