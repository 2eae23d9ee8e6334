/** Migrates the database and, with --demo, loads the demonstration once. Run by ./iteron before the server starts. */
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import mysql from "mysql2/promise";
import { connectionFromEnvironment, Database } from "../db/database";
import { purgeLeftovers } from "../db/files";
import { migrate } from "../db/migrate";
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from "../demo/people";
import { loadDemo } from "../demo/scenario";

const options = connectionFromEnvironment(process.env);
const flags = new Set(process.argv.slice(2));
const folder = join(dirname(fileURLToPath(import.meta.url)), "..", "db", "migrations");

if (flags.has("--reset")) {
  const connection = await mysql.createConnection({ ...options, database: undefined });
  await connection.query(`DROP DATABASE IF EXISTS \`${options.database}\``);
  await connection.query(`CREATE DATABASE \`${options.database}\` CHARACTER SET utf8mb4`);
  await connection.end();
}
await migrate(options, folder);
const db = new Database(options);
await purgeLeftovers(db);

if (flags.has("--demo")) {
  await loadDemo(db);
  console.log("Demonstration sign-in (on this machine only):");
  for (const a of DEMO_ACCOUNTS) console.log(`  ${a.role.padEnd(11)} ${a.email}   password ${DEMO_PASSWORD}`);
}
await db.close();
