import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { person } from "~/app/server/session.server";
import { profileById } from "~/db/profiles";
import type { Route } from "./+types/export";

export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const known = /^[0-9a-f-]{36}$/.test(params.profile);
  const profile = known ? await profileById(database(), account.shopId, params.profile) : null;
  if (!profile) throw data("There is no such profile in the library of your shop.", { status: 404 });
  return new Response(JSON.stringify(profile, null, 2), {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="${profile.document}-${profile.id}-v${profile.version}.json"`,
    },
  });
}
