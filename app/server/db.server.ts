import { data } from "react-router";
import { z } from "zod";
import { connectionFromEnvironment, Database } from "~/db/database";
import { purgeLeftovers } from "~/db/files";

/** Raised as a route error so that the person gets the retry page instead of a crash. */
const AWAY = "database-away";

declare global {
  // One pool per process, kept over reloads during development.
  var iteronDatabase: Database | undefined;
}

/** The database of this server. */
export function database(): Database {
  globalThis.iteronDatabase ??= new Database(connectionFromEnvironment(process.env), (e) =>
    data({ reason: AWAY, message: e.message }, { status: 503, headers: { "Retry-After": "3" } }),
  );
  return globalThis.iteronDatabase;
}

/** What uploads that broke off have left is cleared away while the server runs, too. */
setInterval(() => void purgeLeftovers(database()).catch(() => undefined), 6 * 3_600_000).unref();

/** Names of the migrations that the tables have. */
export async function appliedMigrations(): Promise<string[]> {
  const rows = await database().rows(z.object({ name: z.string() }), "SELECT name FROM migration ORDER BY name");
  return rows.map((r) => r.name);
}

/** Demo accounts work only while the server was started with the demonstration. */
export function demoMode(): boolean {
  return process.env.ITERON_DEMO === "1";
}
