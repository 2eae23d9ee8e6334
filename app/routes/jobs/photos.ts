import { data } from "react-router";
import { z } from "zod";
import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { requireRoom } from "~/app/server/room.server";
import { person } from "~/app/server/session.server";
import { PHOTO_LIMIT_BYTES, photoType } from "~/core/job/photo";
import { FileTaken, storeFile, TooLarge } from "~/db/files";
import type { Route } from "./+types/photos";

const query = z.object({ photo: z.uuid() });
const TOO_LARGE = `A photo has at most ${PHOTO_LIMIT_BYTES / 1_000_000} MB. Take it with a lower resolution; nothing was stored.`;

/** Takes a photo as the raw body of the request. The identifier is made by the caller: sent twice, it is one photo. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  const row = await jobOf(context).row();
  const parsed = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!parsed.success || !request.body) return refuse(400, "Take a photo first.");
  if (Number(request.headers.get("content-length") ?? 0) > PHOTO_LIMIT_BYTES) return refuse(413, TOO_LARGE);
  await requireRoom(PHOTO_LIMIT_BYTES);
  const file = {
    id: parsed.data.photo,
    shopId: account.shopId,
    jobId: row.id,
    name: "photo",
    what: "photo",
    accountId: account.id,
  } as const;
  try {
    await storeFile(database(), file, pictures(request.body), PHOTO_LIMIT_BYTES);
  } catch (error) {
    if (error instanceof FileTaken) return refuse(409, error.message);
    if (error instanceof TooLarge) return refuse(413, TOO_LARGE);
    if (error instanceof NoPicture)
      return refuse(422, "This is no picture that can be shown (JPEG, PNG or WebP). Nothing was stored.");
    throw error;
  }
  return { ok: true as const, photo: file.id };
}

export function loader() {
  throw data(null, { status: 404 });
}

class NoPicture extends Error {}

async function* pictures(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  let first = true;
  for await (const piece of body as unknown as AsyncIterable<Uint8Array>) {
    if (first && photoType(piece) === null) throw new NoPicture();
    first = false;
    yield piece;
  }
  if (first) throw new NoPicture();
}

function refuse(status: number, message: string) {
  return data({ ok: false as const, status, message }, { status });
}
