/** Migrates the database and, with --demo, loads the demonstration once. Run by ./iteron before the server starts. */
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import mysql from "mysql2/promise";
import { makeSetupKey } from "../db/accounts";
import { writeBackup } from "../db/backup";
import { connectionFromEnvironment, Database } from "../db/database";
import { purgeLeftovers } from "../db/files";
import { migrate, migrationsIn } from "../db/migrate";
import { estimateOf } from "../db/restore";
import { DEMO_ACCOUNTS, DEMO_PASSWORD } from "../demo/people";
import { loadDemo } from "../demo/scenario";

const options = connectionFromEnvironment(process.env);
const flags = new Set(process.argv.slice(2));
const root = join(dirname(fileURLToPath(import.meta.url)), "..");
const folder = join(root, "db", "migrations");

if (flags.has("--reset")) {
  const connection = await mysql.createConnection({ ...options, database: undefined });
  await connection.query(`DROP DATABASE IF EXISTS \`${options.database}\``);
  await connection.query(`CREATE DATABASE \`${options.database}\` CHARACTER SET utf8mb4`);
  await connection.end();
}
await migrate(options, folder, { first: copyBeforeChange });
const db = new Database(options);
await purgeLeftovers(db);

if (flags.has("--demo")) {
  await loadDemo(db);
  console.log("Demonstration sign-in (on this machine only):");
  for (const a of DEMO_ACCOUNTS) console.log(`  ${a.role.padEnd(11)} ${a.email}   password ${DEMO_PASSWORD}`);
}
if (!flags.has("--demo")) {
  const key = await makeSetupKey(db);
  const origin = `http://${process.env.HOST ?? "127.0.0.1"}:${process.env.PORT ?? ""}`;
  if (key) console.log(`Nobody has an account yet. Set the shop up at ${origin}/setup?key=${key}`);
}
await db.close();

/** Tables with somebody's data are copied before they are changed. */
async function copyBeforeChange(names: readonly string[]) {
  const known = await migrationsIn(folder);
  const stamp = new Date().toISOString().replace(/\D/g, "").slice(0, 14);
  const file = join(
    process.env.ITERON_STATE ?? join(root, ".iteron"),
    "backups",
    `${options.database}-before-${names[0]?.slice(0, 3)}-${stamp}.backup`,
  );
  const migrations = known.filter((n) => !names.includes(n));
  await writeBackup(options, file, { migrations, estimate: await estimateOf(options) });
  console.log(`Before the tables were changed a copy was made: ${file}`);
}
