import { database } from "~/app/server/db.server";
import { person } from "~/app/server/session.server";
import { libraryPhoto, photosOf } from "~/db/library-photos";
import { closedJobsOf, listProfiles, newestDocuments } from "~/db/profiles";
import { zipProfiles } from "~/profiles/bundle";
import { PROFILE_KINDS } from "~/profiles/schema";
import type { Route } from "./+types/bundle";

/** The newest version of every profile as one zip, with who wrote it and in how many closed jobs it was. */
export async function loader({ context }: Route.LoaderArgs) {
  const { shopId, shopName } = person(context);
  const db = database();
  const profiles = [];
  for (const kind of PROFILE_KINDS) profiles.push(...(await newestDocuments(db, shopId, kind)));
  const [heads, jobs] = [await listProfiles(db, shopId), await closedJobsOf(db, shopId)];
  const about = {
    shop: shopName,
    profiles: heads.map(({ kind, slug, version, createdBy }) => ({
      kind,
      id: slug,
      version,
      by: createdBy,
      closedJobs: jobs.get(`${kind} ${slug}`) ?? 0,
    })),
  };
  const photos = new Map<string, Uint8Array>();
  for (const name of photosOf(profiles)) {
    const bytes = await libraryPhoto(db, shopId, name);
    if (bytes) photos.set(name, bytes);
  }
  return new Response(new Uint8Array(zipProfiles(profiles, about, photos)), {
    headers: {
      "Content-Type": "application/zip",
      "Content-Disposition": 'attachment; filename="iteron-library.zip"',
    },
  });
}
