import { data } from "react-router";
import { z } from "zod";
import { database } from "~/app/server/db.server";
import { jobOf, press } from "~/app/server/jobs.server";
import { person } from "~/app/server/session.server";
import { BUS_FILE_LIMIT_BYTES } from "~/core/bus/limits";
import { logFormat } from "~/core/bus/log";
import { storeFile, TooLarge } from "~/db/files";
import { newId } from "~/db/ids";
import type { Route } from "./+types/files";

const query = z.object({ entry: z.uuid(), name: z.string().trim().min(1).max(200) });

/** Takes a bus log or a DBC as the raw body of the request, streamed into the database chunk by chunk. */
export async function action({ request, context }: Route.ActionArgs) {
  const account = person(context);
  const source = jobOf(context);
  const row = await source.row();
  const parsed = query.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!parsed.success || !request.body) return refuse(400, "Choose a file first.");
  if (Number(request.headers.get("content-length") ?? 0) > BUS_FILE_LIMIT_BYTES)
    return refuse(413, tooLarge(parsed.data.name));
  const { name, entry } = parsed.data;
  const what = /\.dbc$/i.test(name) ? "dbc" : "log";
  const file = { id: newId(), shopId: account.shopId, jobId: row.id, name, what, accountId: account.id } as const;
  try {
    await storeFile(database(), file, checked(request.body, what, name), BUS_FILE_LIMIT_BYTES);
  } catch (error) {
    if (error instanceof TooLarge) return refuse(413, tooLarge(name));
    if (error instanceof WrongKind) return refuse(422, error.message);
    throw error;
  }
  const result = await press(source, [{ id: entry, command: { kind: "bus.file", data: { file: file.id } } }]);
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
