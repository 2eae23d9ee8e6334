import { z } from "zod";
import { database } from "~/app/server/db.server";

/** Answers while the server can work: the database answers, too. `/health` says only that the server runs. */
export async function loader() {
  await database().rows(z.object({ one: z.number() }), "SELECT 1 AS one");
  return new Response("ready", { headers: { "Content-Type": "text/plain" } });
}
