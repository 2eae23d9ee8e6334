import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import mysql from "mysql2/promise";
import { connectionFromEnvironment, Database } from "../../db/database";
import { migrate } from "../../db/migrate";

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
