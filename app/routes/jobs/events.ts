import { database } from "~/app/server/db.server";
import { jobOf } from "~/app/server/jobs.server";
import { log } from "~/app/server/log.server";
import { person } from "~/app/server/session.server";
import { jobWatch } from "~/app/server/watch.server";
import { isSurface } from "~/core/log/stages";
import { newId } from "~/db/ids";
import { endPresence, type Here, RENEW_MS, renewPresence } from "~/db/presence";
import type { Route } from "./+types/events";

/** After this the browser connects anew, and the session is looked at again. */
const LONGEST_MS = 10 * 60_000;

/**
 * The version of a job as server-sent events, now and whenever it changes; and, as events named “here”, who else has it
 * open and on which surface.
 */
export async function loader({ request, context }: Route.LoaderArgs) {
  const account = person(context);
  const row = await jobOf(context).row();
  const surface = new URL(request.url).searchParams.get("at") ?? "";
  const page = { id: newId(), jobId: row.id, accountId: account.id, surface };
  const text = new TextEncoder();
  let stop = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      let told = -1;
      let toldHere = "[]";
      const tell = (version: number, here: readonly Here[]) => {
        const others = JSON.stringify(
          here.filter((h) => h.account !== account.id).map(({ name, surface }) => ({ name, surface })),
        );
        if (version !== told) controller.enqueue(text.encode(`data: ${version}\n\n`));
        if (others !== toldHere) controller.enqueue(text.encode(`event: here\ndata: ${others}\n\n`));
        told = version;
        toldHere = others;
      };
      const renew = () => {
        if (isSurface(surface)) renewPresence(database(), page).catch((error) => log.warn(error, "presence"));
      };
      renew();
      const unwatch = jobWatch.watch(row.id, tell);
      // Proxies end a connection that says nothing.
      const heartbeat = setInterval(() => {
        controller.enqueue(text.encode(":\n\n"));
        renew();
      }, RENEW_MS);
      const end = setTimeout(() => {
        stop();
        controller.close();
      }, LONGEST_MS);
      for (const timer of [heartbeat, end]) timer.unref();
      stop = () => {
        unwatch();
        clearInterval(heartbeat);
        clearTimeout(end);
        endPresence(database(), page.id).catch((error) => log.warn(error, "presence"));
      };
      tell(row.version, []);
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
