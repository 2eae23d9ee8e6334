/** Drawings laid out on the server, so that they come with the page: in a thread, as a large one takes too long for a request. */
import { createHash } from "node:crypto";
import { Worker } from "node:worker_threads";
import ELK from "elkjs/lib/elk-api.js";
import { type LaidOut, layOut } from "~/app/lib/lay-out";
import type { DrawingGraph } from "~/core/connect/drawing";
import { keep, recall } from "~/db/cache";

/** The package is made for workers of browsers: it is given what it looks for there. */
const THREAD = `
  const { parentPort } = require("node:worker_threads");
  globalThis.self = { postMessage: (message) => parentPort.postMessage(message) };
  require("elkjs/lib/elk-worker.min.js");
  parentPort.on("message", (data) => self.onmessage({ data }));
`;

let elk: InstanceType<typeof ELK> | null = null;

/** The thread begins with the first drawing, and again when it has ended. */
function layouts(): InstanceType<typeof ELK> {
  elk ??= new ELK({ workerFactory: begin });
  return elk;
}

function begin(): globalThis.Worker {
  const thread = new Worker(THREAD, { eval: true });
  const seenAs = {
    onmessage: (_: { data: unknown }) => {},
    postMessage: (message: unknown) => thread.postMessage(message),
    terminate: () => thread.terminate(),
  };
  thread.on("message", (data) => seenAs.onmessage({ data }));
  thread.once("exit", () => {
    elk = null;
  });
  // It keeps no server from stopping.
  thread.unref();
  return seenAs as unknown as globalThis.Worker;
}

/** Places for boxes and lines. The same drawing is laid out once. */
export async function laidOut(graph: DrawingGraph): Promise<LaidOut> {
  const text = JSON.stringify(graph);
  const key = createHash("sha256").update(text).digest("base64");
  return (
    recall<LaidOut>("drawing", key) ?? keep("drawing", key, await layOut(layouts(), graph), text.length / KEPT_PER_KB)
  );
}

/** Characters of a drawing without places that take a kilobyte with them. */
const KEPT_PER_KB = 256;

/** How long a page waits for its drawing; after that it comes without, and the device lays it out. */
const PATIENCE_MS = 400;

/** Places for boxes and lines, where they are there soon; null where not. */
export async function laidOutSoon(graph: DrawingGraph): Promise<LaidOut | null> {
  const late = new Promise<null>((resolve) => setTimeout(resolve, PATIENCE_MS, null).unref());
  return Promise.race([laidOut(graph), late]);
}
