import { data } from "react-router";
import { database } from "~/app/server/db.server";
import { readForm } from "~/app/server/form.server";
import { requireRoom } from "~/app/server/room.server";
import { person, requireRole, WRITERS } from "~/app/server/session.server";
import { LIBRARY_PHOTO_LIMIT_BYTES } from "~/core/job/photo";
import { CoreError } from "~/core/model/errors";
import { storePhoto } from "~/db/library-photos";
import type { Route } from "./+types/photos";

/** Takes a photo of a part, plug or label for the library. It is named by what it holds: sent twice, it is one. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, WRITERS);
  await requireRoom(LIBRARY_PHOTO_LIMIT_BYTES);
  const file = (await readForm(request, LIBRARY_PHOTO_LIMIT_BYTES + 10_000)).get("photo");
  if (!(file instanceof File)) return data({ ok: false as const, message: "Take a photo first." }, { status: 400 });
  try {
    const bytes = new Uint8Array(await file.arrayBuffer());
    return { ok: true as const, sha256: await storePhoto(database(), account.shopId, bytes, account.name) };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return data({ ok: false as const, message: `${error.where}: ${error.problem} ${error.remedy}` }, { status: 422 });
  }
}

export function loader() {
  throw data(null, { status: 404 });
}
