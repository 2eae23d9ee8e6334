/** Files of a job as the server keeps them: perhaps compressed. */
import { unpacked } from "~/core/bus/log";

/** The whole of a stored file, unpacked. */
export async function wholeFile(url: string): Promise<Uint8Array> {
  const { body } = await answerTo(url);
  const pieces = unpacked(
    (body as unknown as AsyncIterable<Uint8Array>)[Symbol.asyncIterator]() as AsyncGenerator<Uint8Array>,
  );
  const blobs: Uint8Array<ArrayBuffer>[] = [];
  for await (const piece of pieces) blobs.push(piece as Uint8Array<ArrayBuffer>);
  return new Uint8Array(await new Blob(blobs).arrayBuffer());
}

/** @throws {Error} when the file is not stored */
export async function answerTo(url: string): Promise<Response & { body: ReadableStream<Uint8Array> }> {
  const answer = await fetch(url);
  if (!answer.ok || !answer.body)
    throw new Error(
      "The file is not stored in this shop. Imported jobs bring their log entries but not their bus files.",
    );
  return answer as Response & { body: ReadableStream<Uint8Array> };
}
