import { data } from "react-router";
import { backUpShop, type ShopBackup } from "~/app/server/backup.server";
import { log } from "~/app/server/log.server";
import { requireRoom } from "~/app/server/room.server";
import { person, requireRole } from "~/app/server/session.server";
import { CoreError } from "~/core/model/errors";
import type { Route } from "./+types/make";

/** What the page is told on the way, one line of JSON each. */
export type BackupNews = { share: number } | { made: ShopBackup } | { message: string };

const TELL_EVERY_MS = 200;

/** Backs up the shop and tells how far it is; who goes away stops it. */
export async function action({ request, context }: Route.ActionArgs) {
  const { shopId } = person(context);
  requireRole(person(context), ["lead"]);
  await requireRoom(0);
  const encoder = new TextEncoder();
  const gone = new AbortController();
  request.signal.addEventListener("abort", () => gone.abort());
  const body = new ReadableStream<Uint8Array>({
    async start(to) {
      const tell = (news: BackupNews) => {
        if (!gone.signal.aborted) to.enqueue(encoder.encode(`${JSON.stringify(news)}\n`));
      };
      let told = 0;
      try {
        const made = await backUpShop(
          shopId,
          ({ bytes, ofAbout }) => {
            if (Date.now() - told < TELL_EVERY_MS) return;
            told = Date.now();
            tell({ share: bytes / ofAbout });
          },
          gone.signal,
        );
        tell({ made });
      } catch (error) {
        if (gone.signal.aborted) return;
        if (!(error instanceof CoreError)) log.error(error, "backup");
        tell({
          message:
            error instanceof CoreError ? error.message : "The backup was not made. Nothing is left of it; try again.",
        });
      }
      to.close();
    },
    cancel: () => gone.abort(),
  });
  return new Response(body, { headers: { "Content-Type": "application/x-ndjson" } });
}

export function loader() {
  throw data(null, { status: 404 });
}
