/** Backup, verify and restore, on the database that the environment names. Run by ./iteron. */
import { constants, setPriority } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { CoreError } from "../core/model/errors";
import { readManifest, sizeOf, verifyBackup, writeBackup } from "../db/backup";
import { connectionFromEnvironment } from "../db/database";
import { migrationsIn, pending } from "../db/migrate";
import { type Contents, estimateOf, restoreBackup } from "../db/restore";

// People who work at the same time come first.
setPriority(constants.priority.PRIORITY_LOW);

const folder = join(dirname(fileURLToPath(import.meta.url)), "..", "db", "migrations");
const known = await migrationsIn(folder);
const [command = "", file = "", ...more] = process.argv.slice(2);
const into = more.includes("--into") ? more[more.indexOf("--into") + 1] : undefined;

try {
  if (command === "backup") await backup();
  else if (command === "verify") await verify();
  else await restore();
} catch (error) {
  if (!(error instanceof CoreError)) throw error;
  console.error(`${error.where}: ${error.problem} ${error.remedy}`);
  process.exitCode = 1;
}

async function backup() {
  const options = connectionFromEnvironment(process.env);
  const { names } = await pending(options, folder);
  const migrations = known.filter((m) => !names.includes(m));
  let told = 0;
  const manifest = await writeBackup(options, file, { migrations, estimate: await estimateOf(options) }, (at) => {
    const percent = Math.floor((100 * at.bytes) / at.ofAbout);
    if (process.stderr.isTTY && percent > told) process.stderr.write(`\r${percent} %`);
    told = Math.max(told, percent);
  });
  if (process.stderr.isTTY) process.stderr.write("\r");
  console.log(`${file}: ${megabytes(await sizeOf(file))}, database ${manifest.database}, ${manifest.made}.`);
  console.log(`Look at it any time: ./iteron verify ${file}`);
}

async function verify() {
  const m = await verifyBackup(file, known);
  const whose = m.shop ? "one shop" : "all shops";
  console.log(`${file} is whole: ${whose} of ${m.database}, made ${m.made}, ${megabytes(m.dump.plainBytes)} to load.`);
}

async function restore() {
  const options = connectionFromEnvironment(process.env);
  const target = { ...options, database: into ?? options.database };
  if (!/^iteron[a-z0-9_]*$/.test(target.database)) {
    console.error(
      `“${target.database}” is no name for a database here. Begin with “iteron_”, then small letters and digits.`,
    );
    process.exitCode = 1;
    return;
  }
  const manifest = await readManifest(file, known);
  const settings = { replace: more.includes("--replace"), migrations: folder };
  const { contents, before } = await restoreBackup(file, manifest, target, settings, console.log);
  console.log(`Restored into ${target.database}: ${inWords(contents)}.`);
  if (before) console.log(`What was there is in ${before}.`);
  if (into) console.log(`Serve it: ITERON_DATABASE=${into} ./iteron start`);
}

function inWords({ shops, jobs, entries, files }: Contents): string {
  return `${shops} ${shops === 1 ? "shop" : "shops"}, ${jobs} jobs, ${entries} entries, ${files} files; every job was read`;
}

function megabytes(bytes: number): string {
  return `${(bytes / 1_000_000).toFixed(1)} MB`;
}
