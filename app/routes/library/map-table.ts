import { data } from "react-router";
import { csvFile } from "~/app/server/csv.server";
import { database } from "~/app/server/db.server";
import { person } from "~/app/server/session.server";
import { mapTable } from "~/core/coding/map-text";
import { profileById } from "~/db/profiles";
import type { Route } from "./+types/map-table";

/** A coding map as a table that a spreadsheet opens and the library reads back. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const known = /^[0-9a-f-]{36}$/.test(params.map);
  const profile = known ? await profileById(database(), account.shopId, params.map) : null;
  if (profile?.document !== "coding")
    throw data("There is no such coding map in the library of your shop.", { status: 404 });
  return csvFile(mapTable(profile.units), `coding-${profile.id}-v${profile.version}.csv`);
}
