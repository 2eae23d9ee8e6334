import { readdir, readFile } from "node:fs/promises";
import { join } from "node:path";
import mysql from "mysql2/promise";
import type { ConnectionOptions } from "./database";

const LOCK = "iteron-migrate";

/**
 * Applies the migrations that are not applied yet, in the order of their numbers, under a named lock so that several
 * servers may start at once. Forward only. Returns the names of those applied now.
 */
export async function migrate(options: ConnectionOptions, folder: string): Promise<string[]> {
  const connection = await mysql.createConnection({ ...options, multipleStatements: true, timezone: "Z" });
  try {
    const [locked] = await connection.query<mysql.RowDataPacket[]>("SELECT GET_LOCK(?, 60) AS ok", [LOCK]);
    if (locked[0]?.ok !== 1)
      throw new Error("Another server has been migrating for a minute. Wait for it, then start again.");
    await connection.query(
      "CREATE TABLE IF NOT EXISTS migration (name VARCHAR(120) NOT NULL PRIMARY KEY, applied_at DATETIME(3) NOT NULL) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4",
    );
    const [rows] = await connection.query<mysql.RowDataPacket[]>("SELECT name FROM migration");
    const applied = new Set(rows.map((r) => String(r.name)));
    const done: string[] = [];
    for (const name of (await readdir(folder)).filter((f) => /^\d{3}-.*\.sql$/.test(f)).sort()) {
      if (applied.has(name)) continue;
      await connection.query(await readFile(join(folder, name), "utf8"));
      await connection.query("INSERT INTO migration (name, applied_at) VALUES (?, ?)", [name, new Date()]);
      done.push(name);
    }
    return done;
  } finally {
    await connection.end();
  }
}
