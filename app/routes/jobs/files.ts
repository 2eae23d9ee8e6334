import { data } from "react-router";
import { z } from "zod";
import { database } from "~/app/server/db.server";
import { append, jobRow } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { BUS_FILE_LIMIT_BYTES } from "~/core/bus/limits";
import { logFormat } from "~/core/bus/log";
import { storeFile, TooLarge } from "~/db/files";
import { newId } from "~/db/ids";
import type { Route } from "./+types/files";

const query = z.object({ entry: z.uuid(), name: z.string().trim().min(1).max(200) });

/** Takes a bus log or a DBC as the raw body of the request, streamed into the database chunk by chunk. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const account = person(context);
  const row = await jobRow(account, params.job);
  const parsed = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!parsed.success || !request.body) return refuse(400, "Choose a file first.");
  if (Number(request.headers.get("content-length") ?? 0) > BUS_FILE_LIMIT_BYTES)
    return refuse(413, tooLarge(parsed.data.name));
  const what = /\.dbc$/i.test(parsed.data.name) ? "dbc" : "log";
  const file = { id: newId(), name: parsed.data.name };
  try {
    await storeFile(
      database(),
      account.shopId,
      row.id,
      file,
      checked(request.body, what, file.name),
      BUS_FILE_LIMIT_BYTES,
    );
  } catch (error) {
    if (error instanceof TooLarge) return refuse(413, tooLarge(file.name));
    if (error instanceof WrongKind) return refuse(422, error.message);
    throw error;
  }
  const result = await append(account, params.job, {
    id: parsed.data.entry,
    body: { kind: "bus.file", data: { file: file.id, name: file.name, what } },
  });
  return result.ok ? { ok: true as const, file: file.id } : data(result, { status: result.status });
}

export function loader() {
  throw data(null, { status: 404 });
}

class WrongKind extends Error {}

/** Looks at the first piece and refuses what is neither a log nor a DBC, whatever its name says. */
async function* checked(
  body: ReadableStream<Uint8Array>,
  what: "log" | "dbc",
  name: string,
): AsyncGenerator<Uint8Array> {
  let first = true;
  for await (const piece of body as unknown as AsyncIterable<Uint8Array>) {
    if (first) {
      first = false;
      const head = new TextDecoder().decode(piece.subarray(0, 16_384));
      const fits = what === "dbc" ? /^\s*(VERSION|NS_|BU_|BO_)/m.test(head) : logFormat(piece) !== null;
      if (!fits)
        throw new WrongKind(
          `${name} is not read: ${what === "dbc" ? "a DBC has lines such as “BO_ 288 KeyState: 4 Body”" : "a log line reads “(12.345678) can0 1A4#0102” (candump) or the file begins with “base hex” (ASC)"}. Choose another file; nothing was stored.`,
        );
    }
    yield piece;
  }
}

function tooLarge(name: string): string {
  return `${name} is larger than ${BUS_FILE_LIMIT_BYTES / 1_000_000} MB. Cut the log to the minutes that matter and upload it again; nothing was stored.`;
}

function refuse(status: number, message: string) {
  return data({ ok: false as const, status, message }, { status });
}
