import { proxy, wrap } from "comlink";
import type { Sent, UploadWorker } from "~/app/workers/upload.worker";
import { entryId } from "~/core/job/entry-id";

export interface Sending {
  /** How it ended, with the identifier of the file. */
  done: Promise<Sent & { file: string }>;
  stop(): void;
}

/**
 * Sends a bus file to the job in a worker. The same file of the same job is the same upload, also after the page was loaded
 * again: it goes on where it was.
 */
export function sendBusFile(jobId: string, file: File, progress: (share: number) => void): Sending {
  const worker = new Worker(new URL("../workers/upload.worker.ts", import.meta.url), { type: "module" });
  const key = `${file.name}-${file.size}-${file.lastModified}`;
  const id = entryId(jobId, `upload-${key}`);
  const url = `/jobs/${jobId}/uploads/${id}`;
  const done = wrap<UploadWorker>(worker)
    .send(file, url, entryId(jobId, `bus-file-${key}`), proxy(progress))
    .catch((error: Error) => ({ ok: false as const, message: error.message }))
    .then((sent) => ({ ...sent, file: id }))
    .finally(() => worker.terminate());
  return { done, stop: () => worker.terminate() };
}
