import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { person } from "~/app/server/session.server";
import { photoType } from "~/core/job/photo";
import { libraryPhoto } from "~/db/library-photos";
import type { Route } from "./+types/photo";

/** A photo of the shop's library, with the type its bytes say. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const account = person(context);
  const known = /^[0-9a-f]{64}$/.test(params.sha256);
  const bytes = known ? await libraryPhoto(database(), account.shopId, params.sha256) : null;
  const type = bytes && photoType(bytes);
  if (!type) throw data("The library of your shop has no such photo.", { status: 404 });
  return new Response(new Uint8Array(bytes), {
    headers: { "Content-Type": type, "Cache-Control": "private, max-age=86400, immutable" },
  });
}
