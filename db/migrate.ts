/** Brings the tables of a database to what this program expects. Forward only. */
import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import mysql from "mysql2/promise";
import type { ConnectionOptions } from "./database";
import { newId } from "./ids";

/** Who migrates says so again within this time; after it another server may. */
const LEASE_S = 20;
const RENEW_MS = 5000;
/** With a large shop the copy before a change takes its time. */
const PATIENCE_MS = 10 * 60_000;

const BOOK = [
  "CREATE TABLE IF NOT EXISTS migration (name VARCHAR(120) NOT NULL PRIMARY KEY, applied_at DATETIME(3) NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
  "CREATE TABLE IF NOT EXISTS migration_step (name VARCHAR(120) NOT NULL, step INT NOT NULL, begun_at DATETIME(3) NOT NULL, done_at DATETIME(3) NULL, PRIMARY KEY (name, step)) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
  "CREATE TABLE IF NOT EXISTS migration_guard (id INT NOT NULL PRIMARY KEY, holder VARCHAR(40) NOT NULL, until DATETIME(3) NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
  "INSERT IGNORE INTO migration_guard (id, holder, until) VALUES (1, '', '2000-01-01')",
];

/** Where a migration is: at a statement, before it or after it and before that is recorded. */
export interface At {
  name: string;
  step: number;
  when: "before" | "unrecorded";
}

/** Called on the way; what it throws stops the migration as a cut would. */
export type Watcher = (at: At) => void;

/** Migrations of a folder in the order of their numbers. */
export async function migrationsIn(folder: string): Promise<string[]> {
  return (await readdir(folder)).filter((f) => /^\d{3}-.*\.sql$/.test(f)).sort();
}

/** What is not applied yet, and whether there are tables already that it would change. */
export async function pending(
  options: ConnectionOptions,
  folder: string,
): Promise<{ names: string[]; empty: boolean }> {
  const connection = await mysql.createConnection({ ...options, timezone: "Z" });
  try {
    const [tables] = await connection.query<mysql.RowDataPacket[]>("SHOW TABLES");
    const empty = tables.length === 0;
    const applied = tables.some((t) => Object.values(t)[0] === "migration") ? await appliedOn(connection) : new Set();
    return { names: (await migrationsIn(folder)).filter((n) => !applied.has(n)), empty };
  } finally {
    await connection.end();
  }
}

/**
 * Applies the migrations that are not applied yet. Every statement is recorded, so that one that was cut off goes on
 * where it was; of several servers, on several nodes of a cluster too, one migrates and the others wait.
 *
 * @param first called before tables with rows are changed, with what is going to be applied; meanwhile no other server
 * changes any
 * @returns the names of those applied now
 * @throws an Error with what to do when another server does not come to an end
 */
export async function migrate(
  options: ConnectionOptions,
  folder: string,
  { watcher = () => {}, first }: { watcher?: Watcher; first?: (names: readonly string[]) => Promise<void> } = {},
): Promise<string[]> {
  const { empty } = await pending(options, folder);
  const connection = await mysql.createConnection({ ...options, timezone: "Z" });
  const holder = newId();
  try {
    for (const statement of BOOK) await connection.query(statement);
    await takeGuard(connection, holder);
    const stop = await keepGuard(options, holder);
    try {
      const applied = await appliedOn(connection);
      const done: string[] = [];
      const names = (await migrationsIn(folder)).filter((n) => !applied.has(n));
      if (names.length > 0 && !empty) await first?.(names);
      for (const name of names) {
        await apply(connection, name, statementsOf(await readFile(join(folder, name), "utf8")), watcher);
        done.push(name);
      }
      return done;
    } finally {
      await stop();
    }
  } finally {
    await connection.end();
  }
}

/** What has been begun and done so far: two equal answers mean that nothing was changed between them. */
export async function migrationsSoFar(options: ConnectionOptions): Promise<string> {
  const connection = await mysql.createConnection({ ...options, timezone: "Z" });
  try {
    const [steps] = await connection.query<mysql.RowDataPacket[]>(
      "SELECT name, step, begun_at, done_at FROM migration_step ORDER BY name, step",
    );
    return JSON.stringify(steps);
  } catch (error) {
    // Tables of before steps were recorded.
    if ((error as { code?: string }).code === "ER_NO_SUCH_TABLE") return "";
    throw error;
  } finally {
    await connection.end();
  }
}

async function appliedOn(connection: mysql.Connection): Promise<Set<string>> {
  const [rows] = await connection.query<mysql.RowDataPacket[]>("SELECT name FROM migration");
  return new Set(rows.map((r) => String(r.name)));
}

async function apply(connection: mysql.Connection, name: string, statements: readonly string[], watcher: Watcher) {
  const [rows] = await connection.query<mysql.RowDataPacket[]>(
    "SELECT step, done_at FROM migration_step WHERE name = ?",
    [name],
  );
  const known = new Map(rows.map((r) => [Number(r.step), r.done_at !== null]));
  for (const [step, statement] of statements.entries()) {
    if (known.get(step)) continue;
    watcher({ name, step, when: "before" });
    const work = { connection, name, step, statement, done: () => watcher({ name, step, when: "unrecorded" }) };
    if (changesRows(statement)) await inOne(work);
    else await recorded(work, known.has(step));
  }
  await connection.query("INSERT IGNORE INTO migration (name, applied_at) VALUES (?, ?)", [name, new Date()]);
}

/** Statements of a file: each ends with a semicolon at the end of a line; lines that begin with `--` are remarks. */
export function statementsOf(text: string): string[] {
  const code = text
    .split("\n")
    .filter((line) => !line.startsWith("--"))
    .join("\n");
  return code.split(/;[ \t]*(?:\n|$)/).flatMap((s) => s.trim() || []);
}

const changesRows = (statement: string) => /^(INSERT|UPDATE|DELETE|REPLACE)\b/i.test(statement);

interface Work {
  connection: mysql.Connection;
  name: string;
  step: number;
  statement: string;
  /** Called when it has happened and is not recorded yet. */
  done(): void;
}

const DONE = "REPLACE INTO migration_step (name, step, begun_at, done_at) VALUES (?, ?, ?, ?)";

/** Changed rows and their record are one transaction. */
async function inOne({ connection, name, step, statement, done }: Work) {
  const now = new Date();
  await connection.beginTransaction();
  await connection.query(statement);
  done();
  await connection.query(DONE, [name, step, now, now]);
  await connection.commit();
}

/** Already there, or already gone. */
const DONE_BEFORE = new Set([
  "ER_TABLE_EXISTS_ERROR",
  "ER_DUP_FIELDNAME",
  "ER_DUP_KEYNAME",
  "ER_CANT_DROP_FIELD_OR_KEY",
  "ER_NO_SUCH_TABLE",
  "ER_BAD_FIELD_ERROR",
]);

/**
 * A change of tables cannot be part of a transaction; each is atomic by itself (since MariaDB 10.6). One that was begun
 * and whose end was not recorded has either happened, and then says that it has, or not.
 */
async function recorded({ connection, name, step, statement, done }: Work, begun: boolean) {
  const at = new Date();
  await connection.query(DONE, [name, step, at, null]);
  try {
    await connection.query(statement);
  } catch (error) {
    if (!begun || !DONE_BEFORE.has((error as { code?: string }).code ?? "")) throw error;
  }
  done();
  await connection.query(DONE, [name, step, at, new Date()]);
}

/** A row that one holder at a time has: unlike a named lock it holds for all nodes of a cluster. */
async function takeGuard(connection: mysql.Connection, holder: string): Promise<void> {
  for (let waited = 0; waited < PATIENCE_MS; waited += 250) {
    if (await guardWritten(connection, holder)) return;
    await new Promise((resolve) => setTimeout(resolve, 250));
  }
  throw new Error("Another server has been migrating for ten minutes. Wait for it, then start again.");
}

/** Of two nodes that take it at once one is refused when it commits. */
async function guardWritten(connection: mysql.Connection, holder: string): Promise<boolean> {
  try {
    const [result] = await connection.query<mysql.ResultSetHeader>(
      "UPDATE migration_guard SET holder = ?, until = NOW(3) + INTERVAL ? SECOND WHERE id = 1 AND (until < NOW(3) OR holder = ?)",
      [holder, LEASE_S, holder],
    );
    return result.affectedRows === 1;
  } catch (error) {
    if ((error as { errno?: number }).errno === 1213) return false;
    throw error;
  }
}

/** Renews the guard on a connection of its own, however long a statement takes. Returns how to give it back. */
async function keepGuard(options: ConnectionOptions, holder: string): Promise<() => Promise<void>> {
  const connection = await mysql.createConnection({ ...options, timezone: "Z" });
  const timer = setInterval(() => void guardWritten(connection, holder).catch(() => undefined), RENEW_MS);
  return async () => {
    clearInterval(timer);
    await connection
      .query("UPDATE migration_guard SET until = NOW(3) - INTERVAL 1 SECOND WHERE id = 1 AND holder = ?", [holder])
      .catch(() => undefined);
    await connection.end();
  };
}
