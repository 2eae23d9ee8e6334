import { data } from "react-router";
import { checkBackup } from "~/app/server/backup.server";
import { requireRoom } from "~/app/server/room.server";
import { person, requireRole } from "~/app/server/session.server";
import { CoreError } from "~/core/model/errors";
import type { Route } from "./+types/check";

/** What was found of a backup that was sent; `unread` when nothing can be said of it. */
export type BackupChecked =
  | { ok: true; made: string; ofThisShop: boolean }
  | { ok: false; unread?: true; message: string };

/** Reads a backup, sent as the body of the request, to its end and says whether it is whole. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  requireRole(account, ["lead"]);
  const length = Number(request.headers.get("content-length") ?? 0);
  if (!request.body || length === 0)
    return data({ ok: false as const, unread: true as const, message: "Choose a backup first." }, { status: 400 });
  await requireRoom(length);
  const name = new URL(request.url).searchParams.get("name")?.slice(0, 120) || "the file";
  const bytes = request.body as unknown as AsyncIterable<Uint8Array>;
  try {
    return { ok: true as const, ...(await checkBackup(account.shopId, name, bytes, request.signal)) };
  } catch (error) {
    if (error instanceof CoreError) return data({ ok: false as const, message: error.message }, { status: 422 });
    throw error;
  }
}

export function loader() {
  throw data(null, { status: 404 });
}
