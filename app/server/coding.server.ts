import type { Job } from "~/core/job/job";
import type { Account } from "~/db/accounts";
import { newestDocuments } from "~/db/profiles";
import { database } from "./db.server";

/** Coding maps of the library that are for the car of a job; the version it has taken is left out. */
export async function codingMapsFor({ shopId }: Account, { opened, state }: Job) {
  const all = await newestDocuments(database(), shopId, "coding");
  return all.flatMap((m) =>
    m.document === "coding" &&
    m.car === opened.car.id &&
    !(state.codingMap?.slug === m.id && state.codingMap.version === m.version)
      ? [{ slug: m.id, version: m.version, title: m.title }]
      : [],
  );
}
