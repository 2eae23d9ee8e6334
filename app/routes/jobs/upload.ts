import { createGunzip } from "node:zlib";
import { data } from "react-router";
import { z } from "zod";
import { database } from "~/app/server/db.server";
import { jobOf, press } from "~/app/server/jobs.server";
import { requireRoom } from "~/app/server/room.server";
import { person } from "~/app/server/session.server";
import { meantAs, notRead } from "~/core/bus/file-kind";
import { BUS_FILE_LIMIT_BYTES, BUS_FILE_PLAIN_LIMIT_BYTES, PIECE_BYTES } from "~/core/bus/limits";
import { HEAD_BYTES } from "~/core/bus/log";
import { FileTaken } from "~/db/files";
import { finishUpload, receivedBytes, takePiece, type Upload } from "~/db/uploads";
import type { Route } from "./+types/upload";

const piece = z.object({ at: z.coerce.number().int().min(0) });
const end = z.object({ entry: z.uuid(), name: z.string().trim().min(1).max(200) });

/** How much of a file is here. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const upload = await uploadOf(params.upload, context);
  return { received: await receivedBytes(database(), upload) };
}

/**
 * Takes a bus file, compressed with gzip, piece by piece: `?at=` with the bytes as the body. `?entry=&name=` without a body
 * says that all is sent; the file is then unpacked, looked at and stored with the job.
 */
export async function action({ request, params, context }: Route.ActionArgs) {
  const upload = await uploadOf(params.upload, context);
  const query = Object.fromEntries(new URL(request.url).searchParams);
  try {
    const part = piece.safeParse(query);
    if (part.success) return await take(request, upload, part.data.at);
    const whole = end.safeParse(query);
    if (whole.success) return await finish(upload, whole.data, jobOf(context));
    return refuse(400, "Choose a file first.");
  } catch (error) {
    if (error instanceof FileTaken) return refuse(409, error.message);
    if (error instanceof NotRead) return refuse(422, error.message);
    throw error;
  }
}

async function uploadOf(id: string, context: Route.ActionArgs["context"]): Promise<Upload> {
  const account = person(context);
  const row = await jobOf(context).row();
  if (!z.uuid().safeParse(id).success) throw data("There is no such upload.", { status: 404 });
  return { id, shopId: account.shopId, jobId: row.id, accountId: account.id };
}

async function take(request: Request, upload: Upload, at: number) {
  if (Number(request.headers.get("content-length") ?? 0) > PIECE_BYTES)
    return refuse(413, `A piece has at most ${PIECE_BYTES} bytes.`);
  if (at > BUS_FILE_LIMIT_BYTES)
    return refuse(
      413,
      `The file is larger than ${BUS_FILE_LIMIT_BYTES / 1e6} MB, compressed. Cut the log to the minutes that matter; nothing was stored.`,
    );
  await requireRoom(PIECE_BYTES);
  const bytes = await bounded(request);
  if (!bytes) return refuse(413, `A piece has at most ${PIECE_BYTES} bytes.`);
  return { ok: true as const, received: await takePiece(database(), upload, at, bytes) };
}

/** The body, unless it is longer than a piece may be; then nothing more of it is read. */
async function bounded(request: Request): Promise<Uint8Array | null> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  for await (const part of (request.body ?? []) as unknown as AsyncIterable<Uint8Array>) {
    length += part.length;
    if (length > PIECE_BYTES) return null;
    pieces.push(part);
  }
  return Buffer.concat(pieces);
}

async function finish(upload: Upload, { entry, name }: z.infer<typeof end>, source: ReturnType<typeof jobOf>) {
  const file = { ...upload, name, what: meantAs(name) };
  await finishUpload(database(), file, (bytes) => look(bytes, name));
  const result = await press(source, [{ id: entry, command: { kind: "bus.file", data: { file: file.id } } }]);
  return result.ok ? { ok: true as const, file: file.id } : data(result, { status: result.status });
}

class NotRead extends Error {}

/** Unpacks all of a file: it must be whole, not too long, and what its name says, by its beginning. */
async function look(bytes: AsyncIterable<Uint8Array>, name: string): Promise<void> {
  const plain = createGunzip();
  const feeding = (async () => {
    for await (const part of bytes)
      if (!plain.write(part)) await new Promise((resolve) => plain.once("drain", resolve));
    plain.end();
  })();
  let head = Buffer.alloc(0);
  let length = 0;
  try {
    for await (const part of plain as AsyncIterable<Buffer>) {
      length += part.length;
      if (head.length < HEAD_BYTES) head = Buffer.concat([head, part.subarray(0, HEAD_BYTES)]);
      if (length > BUS_FILE_PLAIN_LIMIT_BYTES) break;
    }
    if (length <= BUS_FILE_PLAIN_LIMIT_BYTES) await feeding;
  } catch {
    throw new NotRead(
      `${name} did not arrive whole, or its compression is damaged. Send it again; nothing was stored.`,
    );
  }
  if (length > BUS_FILE_PLAIN_LIMIT_BYTES)
    throw new NotRead(
      `${name} is longer than ${BUS_FILE_PLAIN_LIMIT_BYTES / 1e6} MB when unpacked. Cut the log to the minutes that matter; nothing was stored.`,
    );
  const problem = notRead(name, head);
  if (problem) throw new NotRead(problem);
}

/** What follows a refused body is not read, so the connection ends. */
function refuse(status: number, message: string) {
  return data({ ok: false as const, status, message }, { status, headers: { Connection: "close" } });
}
