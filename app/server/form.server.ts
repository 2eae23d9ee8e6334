import { data } from "react-router";

/** More than any form of the pages has; uploads say their own limit. */
const FORM_LIMIT_BYTES = 300_000;

/**
 * The form of a request. Its bytes are counted as they come, announced or not, and the rest is not read: a body too
 * large costs its sender more than the server.
 *
 * @throws 413, 400 as answers of a route
 */
export async function readForm(request: Request, limitBytes = FORM_LIMIT_BYTES): Promise<FormData> {
  if (Number(request.headers.get("content-length") ?? 0) > limitBytes) throw tooLarge(limitBytes);
  const pieces: Uint8Array<ArrayBuffer>[] = [];
  let bytes = 0;
  for await (const piece of (request.body ?? []) as unknown as AsyncIterable<Uint8Array<ArrayBuffer>>) {
    bytes += piece.length;
    if (bytes > limitBytes) throw tooLarge(limitBytes);
    pieces.push(piece);
  }
  const headers = { "Content-Type": request.headers.get("content-type") ?? "" };
  try {
    return await new Response(new Blob(pieces), { headers }).formData();
  } catch {
    throw data("The form could not be read. Load the page again; nothing was changed.", { status: 400 });
  }
}

function tooLarge(limitBytes: number) {
  const limit =
    limitBytes < 1_000_000 ? `${Math.floor(limitBytes / 1000)} kB` : `${Math.floor(limitBytes / 1_000_000)} MB`;
  return data(`More than ${limit} is not taken here. Send less; nothing was changed.`, { status: 413 });
}
