import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import mysql from "mysql2/promise";
import { endProcess, freePortFrom, run } from "../../cli/common.mjs";
import { startMariadb } from "../../cli/mariadb.mjs";
import { serving, startServer } from "../../cli/serve.mjs";
import { connectionFromEnvironment, Database } from "../../db/database";
import { migrate } from "../../db/migrate";
import { DEMO_PASSWORD } from "../../demo/people";

export const root = join(dirname(fileURLToPath(import.meta.url)), "..", "..");

/** An empty, migrated database of its own for one test file. */
export async function freshDatabase(name: string): Promise<{ db: Database; env: Record<string, string> }> {
  const options = { ...connectionFromEnvironment(process.env), database: `iteron_t_${name}` };
  const connection = await mysql.createConnection({ ...options, database: undefined });
  await connection.query(`DROP DATABASE IF EXISTS ${options.database}`);
  await connection.query(`CREATE DATABASE ${options.database} CHARACTER SET utf8mb4`);
  await connection.end();
  await migrate(options, join(root, "db", "migrations"));
  const env = {
    ITERON_DB_HOST: options.host,
    ITERON_DB_PORT: String(options.port),
    ITERON_DB_USER: options.user,
    ITERON_DB_PASSWORD: options.password,
    ITERON_DB_NAME: options.database,
  };
  return { db: new Database(options), env };
}

/** The built server with the demonstration on a database of its own. */
export interface DemoServer {
  origin: string;
  pid: number;
  mariadb: Mariadb;
  /** Settings with which it runs, for a second server on the same database. */
  env: Record<string, string>;
  signIn(email: string): Promise<string>;
  stop(): Promise<void>;
}
type Mariadb = Awaited<ReturnType<typeof startMariadb>>;

/** @param dbPort @param port the first ports that are tried */
export async function startDemoServer(
  name: string,
  dbPort: number,
  port: number,
  more: Record<string, string> = {},
): Promise<DemoServer> {
  const mariadb = await startMariadb(name, await freePortFrom(dbPort));
  const env = {
    ...mariadb.env("iteron_demo"),
    ITERON_DEMO: "1",
    NODE_ENV: "production",
    HOST: "127.0.0.1",
    PORT: String(await freePortFrom(port)),
    ...more,
  };
  await run(process.execPath, ["--import", "tsx", "cli/prepare.ts", "--demo", "--reset"], { env });
  const { pid } = startServer(env);
  await serving(Number(env.PORT));
  const origin = `http://127.0.0.1:${env.PORT}`;
  const demo: DemoServer = {
    origin,
    pid,
    mariadb,
    env,
    signIn: (email) => signInAt(origin, email),
    async stop() {
      await endProcess(pid, SERVER_MARK, 5000);
      await demo.mariadb.stop();
    },
  };
  return demo;
}

/** What the command line of a server process holds. */
export const SERVER_MARK = "build/server/index.js";

/** The session cookie of an account of the demonstration. */
async function signInAt(origin: string, email: string): Promise<string> {
  const answer = await fetch(`${origin}/sign-in`, {
    method: "POST",
    body: new URLSearchParams({ email, password: DEMO_PASSWORD }),
    headers: { origin },
    redirect: "manual",
  });
  const cookie = /iteron_session=[^;]+/.exec(answer.headers.get("set-cookie") ?? "")?.[0];
  if (!cookie) throw new Error(`${email} could not sign in: ${answer.status}`);
  return cookie;
}

/** The identifier of a job on the board, by a part of its title. */
export async function jobNamed(origin: string, cookie: string, title: string): Promise<string> {
  const board = await (await fetch(`${origin}/board`, { headers: { cookie } })).text();
  const jobs = [...board.matchAll(/href="\/jobs\/([0-9a-f-]{36})"[\s\S]*?font-medium">([^<]+)</g)];
  return jobs.find((m) => m[2]?.includes(title))?.[1] ?? "";
}
