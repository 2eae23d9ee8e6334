/** Sends a bus file compressed and piece by piece; one that broke off goes on where it was. */
import { expose } from "comlink";
import { notRead } from "~/core/bus/file-kind";
import { PIECE_BYTES } from "~/core/bus/limits";
import { HEAD_BYTES, isGzip } from "~/core/bus/log";

/** Waits between tries of one piece, in milliseconds. */
const RETRIES_MS = [500, 2000, 5000];

export type Sent = { ok: true } | { ok: false; message: string };
interface Answer {
  ok?: boolean;
  message?: string;
  received?: number;
}

const worker = {
  /** @param url of the upload; `entry` of the line of the job that names the file */
  async send(file: File, url: string, entry: string, progress: (share: number) => void): Promise<Sent> {
    const head = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
    // A compressed one is looked at by the server when it is unpacked.
    const problem = isGzip(head) ? null : notRead(file.name, head);
    if (problem) return { ok: false, message: problem };
    const begun = await ask(url, { method: "GET" });
    let received = begun.received ?? 0;
    let at = 0;
    for await (const piece of pieces(file, isGzip(head), progress)) {
      const end = at + piece.length;
      // Compressing once more gives the same bytes; those that are there are passed over.
      while (received < end) {
        const from = Math.max(at, received);
        const answer = await ask(`${url}?at=${from}`, { method: "POST", body: piece.slice(from - at) });
        if (answer.ok === false) return { ok: false, message: answer.message ?? "The server refused the file." };
        if ((answer.received ?? 0) < at)
          return { ok: false, message: "The file changed while it was sent. Choose it again." };
        received = answer.received ?? 0;
      }
      at = end;
    }
    const query = new URLSearchParams({ entry, name: file.name });
    const answer = await ask(`${url}?${query}`, { method: "POST" });
    return answer.ok ? { ok: true } : { ok: false, message: answer.message ?? "The server refused the file." };
  },
};

/** The bytes of the file as gzip, in pieces. */
async function* pieces(file: File, packed: boolean, progress: (share: number) => void) {
  let read = 0;
  const counted = file.stream().pipeThrough(
    new TransformStream<Uint8Array<ArrayBuffer>, Uint8Array<ArrayBuffer>>({
      transform(part, to) {
        read += part.length;
        to.enqueue(part);
      },
    }),
  );
  const stream = packed ? counted : counted.pipeThrough(new CompressionStream("gzip"));
  let waiting: Uint8Array<ArrayBuffer> = new Uint8Array(PIECE_BYTES);
  let filled = 0;
  const reader = stream.getReader();
  for (let step = await reader.read(); !step.done; step = await reader.read()) {
    let rest = step.value;
    while (rest.length > 0) {
      const fit = Math.min(rest.length, PIECE_BYTES - filled);
      waiting.set(rest.subarray(0, fit), filled);
      filled += fit;
      rest = rest.subarray(fit);
      if (filled < PIECE_BYTES) continue;
      yield waiting;
      progress(file.size > 0 ? read / file.size : 1);
      waiting = new Uint8Array(PIECE_BYTES);
      filled = 0;
    }
  }
  if (filled > 0) yield waiting.slice(0, filled);
  progress(1);
}

/** @throws when the server cannot be reached, also after some tries */
async function ask(url: string, request: RequestInit): Promise<Answer> {
  for (let attempt = 0; ; attempt++) {
    const answer = await fetch(url, request).catch(() => null);
    const said: Answer | null = await answer?.json().catch(() => null);
    if (answer && answer.status < 500 && said) return said;
    const waitMs = RETRIES_MS[attempt];
    if (waitMs === undefined)
      throw new Error("The connection broke. What was sent is kept; choose the file again and it goes on from there.");
    await new Promise((resolve) => setTimeout(resolve, waitMs));
  }
}

export type UploadWorker = typeof worker;
expose(worker);
