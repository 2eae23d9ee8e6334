import { jobOf } from "~/app/server/jobs.server";
import { jobWatch } from "~/app/server/watch.server";
import type { Route } from "./+types/events";

/** Proxies end a connection that says nothing. */
const HEARTBEAT_MS = 15_000;
/** After this the browser connects anew, and the session is looked at again. */
const LONGEST_MS = 10 * 60_000;

/** The version of a job as server-sent events: now, and whenever it changes. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const row = await jobOf(context).row();
  const text = new TextEncoder();
  let stop = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      let told = -1;
      const tell = (version: number) => {
        if (version === told) return;
        told = version;
        controller.enqueue(text.encode(`data: ${version}\n\n`));
      };
      const unwatch = jobWatch.watch(row.id, tell);
      const heartbeat = setInterval(() => controller.enqueue(text.encode(":\n\n")), HEARTBEAT_MS);
      const end = setTimeout(() => {
        stop();
        controller.close();
      }, LONGEST_MS);
      for (const timer of [heartbeat, end]) timer.unref();
      stop = () => {
        unwatch();
        clearInterval(heartbeat);
        clearTimeout(end);
      };
      tell(row.version);
    },
    cancel() {
      stop();
    },
  });
  request.signal.addEventListener("abort", () => stop());
  return new Response(stream, {
    headers: { "Content-Type": "text/event-stream", "Cache-Control": "no-cache, no-transform" },
  });
}
