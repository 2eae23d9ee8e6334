/** Brings a backup back: loaded beside the present data, looked at, and put in its place only when it is whole. */
import { createHash } from "node:crypto";
import mysql from "mysql2/promise";
import { z } from "zod";
import { foldJob } from "../core/log/fold";
import { BackupError, loadDump, type Manifest } from "./backup";
import { type ConnectionOptions, Database } from "./database";
import { entriesOf } from "./jobs";
import { migrate } from "./migrate";

/** What a database holds, and one sum over every folded job. */
export interface Contents {
  shops: number;
  jobs: number;
  entries: number;
  files: number;
  /** SHA-256 over all jobs in the order of their identifiers. */
  sha256: string;
  /** Jobs that cannot be read, with why. */
  unreadable: string[];
}

/** Reads and folds every job of a database. */
export async function contentsOf(options: ConnectionOptions): Promise<Contents> {
  const db = new Database(options);
  try {
    const jobs = await db.rows(
      z.object({ id: z.string(), shop_id: z.string(), version: z.number(), number: z.number() }),
      "SELECT id, shop_id, version, number FROM job ORDER BY id",
    );
    const [counts] = await db.rows(
      z.object({ shops: z.number(), entries: z.number(), files: z.number() }),
      "SELECT (SELECT COUNT(*) FROM shop) AS shops, (SELECT COUNT(*) FROM job_entry) AS entries, (SELECT COUNT(*) FROM job_file) AS files",
    );
    const sum = createHash("sha256");
    const unreadable: string[] = [];
    for (const { id, shop_id, version, number } of jobs) {
      try {
        const entries = await entriesOf(db, shop_id, id, version);
        if (entries.length !== version) throw new Error(`it has ${entries.length} entries instead of ${version}`);
        sum.update(`${id} ${jobHash(foldJob(entries))}\n`);
      } catch (error) {
        unreadable.push(`job ${number}: ${(error as Error).message}`);
      }
    }
    const { shops = 0, entries = 0, files = 0 } = counts ?? {};
    return { shops, jobs: jobs.length, entries, files, sha256: sum.digest("hex"), unreadable };
  } finally {
    await db.close();
  }
}

/** One sum of a folded job: equal states have equal sums. */
export function jobHash(state: object): string {
  const text = JSON.stringify(state, (_, value: unknown) => {
    if (value instanceof Map) return { map: [...value] };
    if (value instanceof Set) return { set: [...value] };
    return value;
  });
  return createHash("sha256").update(text).digest("hex");
}

/** Where a backup goes. */
export interface Restored {
  contents: Contents;
  /** Database to which what was there before has been moved; null when nothing was there. */
  before: string | null;
}

/**
 * Restores a backup. It is loaded into a database of its own first, brought up to date and read job by job; what is there
 * now is touched at the very end, and then moved, not deleted.
 *
 * @param replace move away what is there; otherwise a database with accounts is refused
 * @throws {BackupError}
 */
export async function restoreBackup(
  file: string,
  manifest: Manifest,
  target: ConnectionOptions,
  { replace, migrations }: { replace: boolean; migrations: string },
  say: (what: string) => void = () => {},
): Promise<Restored> {
  const sql = await mysql.createConnection({ ...target, database: undefined, timezone: "Z" });
  const stamp = new Date().toISOString().replace(/\D/g, "").slice(0, 14);
  const scratch = { ...target, database: `iteron_restoring_${stamp}` };
  try {
    if (!replace && (await hasAccounts(sql, target.database)))
      throw new BackupError(
        target.database,
        "there is a shop in this database.",
        "Restore into another one with --into NAME, or move the present one away with --replace; nothing was changed.",
      );
    await sql.query(`CREATE DATABASE \`${scratch.database}\` CHARACTER SET utf8mb4`);
    say("Loading ...");
    await loadDump(file, manifest, scratch);
    await migrate(scratch, migrations);
    say("Reading every job ...");
    const contents = await contentsOf(scratch);
    if (contents.unreadable.length > 0)
      throw new BackupError(
        file,
        `${contents.unreadable.length} jobs cannot be read (${contents.unreadable[0]}).`,
        "Take another backup; nothing was changed.",
      );
    await sql.query(`CREATE DATABASE IF NOT EXISTS \`${target.database}\` CHARACTER SET utf8mb4`);
    const before = (await hasAccounts(sql, target.database)) ? `${target.database}_before_${stamp}` : null;
    if (before) {
      await sql.query(`CREATE DATABASE \`${before}\` CHARACTER SET utf8mb4`);
      await moveTables(sql, target.database, before);
    } else {
      await sql.query(`DROP DATABASE \`${target.database}\``);
      await sql.query(`CREATE DATABASE \`${target.database}\` CHARACTER SET utf8mb4`);
    }
    await moveTables(sql, scratch.database, target.database);
    return { contents, before };
  } finally {
    await sql.query(`DROP DATABASE IF EXISTS \`${scratch.database}\``).catch(() => undefined);
    await sql.end();
  }
}

async function tablesOf(sql: mysql.Connection, database: string): Promise<string[]> {
  const [rows] = await sql.query<mysql.RowDataPacket[]>(
    "SELECT table_name AS name FROM information_schema.tables WHERE table_schema = ?",
    [database],
  );
  return rows.map((r) => String(r.name));
}

async function hasAccounts(sql: mysql.Connection, database: string): Promise<boolean> {
  if (!(await tablesOf(sql, database)).includes("account")) return false;
  const [rows] = await sql.query<mysql.RowDataPacket[]>(
    `SELECT EXISTS (SELECT 1 FROM \`${database}\`.account) AS some`,
  );
  return Number(rows[0]?.some) === 1;
}

/** All tables at once; keys between them follow. */
async function moveTables(sql: mysql.Connection, from: string, to: string): Promise<void> {
  const tables = await tablesOf(sql, from);
  if (tables.length === 0) return;
  await sql.query(`RENAME TABLE ${tables.map((t) => `\`${from}\`.\`${t}\` TO \`${to}\`.\`${t}\``).join(", ")}`);
}

/** Size of the rows of a database, for the progress of a dump; binary columns double on the way. */
export async function estimateOf(options: ConnectionOptions): Promise<number> {
  const sql = await mysql.createConnection(options);
  try {
    const [rows] = await sql.query<mysql.RowDataPacket[]>(
      "SELECT COALESCE(SUM(data_length * IF(table_name = 'job_chunk', 2, 1)), 0) AS bytes FROM information_schema.tables WHERE table_schema = ?",
      [options.database],
    );
    return Number(rows[0]?.bytes ?? 0);
  } finally {
    await sql.end();
  }
}
