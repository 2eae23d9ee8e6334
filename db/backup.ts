/**
 * Backups: a tar of `manifest.json` and `dump.sql.gz`, written by MariaDB's own dump program from one snapshot while
 * people go on working, and read by `tar`, `gzip` and `mariadb` without this program where need be.
 */
import { type ChildProcess, spawn } from "node:child_process";
import { createHash } from "node:crypto";
import { once } from "node:events";
import { createWriteStream, existsSync } from "node:fs";
import { mkdir, mkdtemp, open, rename, rm, stat, writeFile } from "node:fs/promises";
import { dirname, join, resolve } from "node:path";
import { PassThrough, type Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import { createGunzip, createGzip } from "node:zlib";
import { z } from "zod";
import { CoreError } from "../core/model/errors";
import type { ConnectionOptions } from "./database";
import { migrationsSoFar } from "./migrate";

/** A backup that cannot be made or read, with place and remedy. */
export class BackupError extends CoreError {}

const FORMAT = 1;
const MANIFEST = "manifest.json";
const DUMP = "dump.sql.gz";
const MAX_TEXT = 1_000_000;

const manifestSchema = z.object({
  format: z.literal("iteron-backup"),
  formatVersion: z.number().int(),
  /** ISO 8601, UTC. */
  made: z.string(),
  database: z.string(),
  /** The only shop that is in it; null for all. */
  shop: z.string().nullable(),
  migrations: z.array(z.string()),
  dump: z.object({ bytes: z.number(), plainBytes: z.number(), sha256: z.string() }),
});
export type Manifest = z.infer<typeof manifestSchema>;

export interface Progress {
  /** Bytes of the dump before compression so far. */
  bytes: number;
  /** About how many there will be. */
  ofAbout: number;
}

/** Tables whose rows are of the moment: nobody misses them, and a session must not come back to life. */
const MOMENTARY = ["session", "sign_in_attempt", "presence", "known_origin", "setup_key", "migration_guard"];
/** Tables without a column for the shop. */
const SHOPLESS = ["shop", "migration", "migration_step"];

/**
 * Writes a backup to a new file. The file appears under its name when it is whole.
 *
 * @param migrations names of those that are applied
 * @throws {BackupError} when the file is there already, has no room, or the database does not answer
 */
export async function writeBackup(
  options: ConnectionOptions,
  file: string,
  about: { migrations: readonly string[]; shop?: string; estimate: number },
  progress: (at: Progress) => void = () => {},
  signal?: AbortSignal,
): Promise<Manifest> {
  const target = resolve(file);
  if (existsSync(target)) throw new BackupError(file, "there is a file of this name.", "Choose another name.");
  await mkdir(dirname(target), { recursive: true });
  const work = await mkdtemp(join(dirname(target), ".backup-"));
  try {
    const dump = await ofOneVersion(options, file, () => writeDump(options, join(work, DUMP), about, progress, signal));
    const manifest: Manifest = {
      format: "iteron-backup",
      formatVersion: FORMAT,
      made: new Date().toISOString(),
      database: options.database,
      shop: about.shop ?? null,
      migrations: [...about.migrations],
      dump,
    };
    await writeFile(join(work, MANIFEST), `${JSON.stringify(manifest, null, 2)}\n`);
    const part = join(work, "part.tar");
    await ended(spawn("tar", ["-cf", part, "-C", work, MANIFEST, DUMP]), file);
    const handle = await open(part);
    await handle.sync();
    await handle.close();
    await rename(part, target);
    return manifest;
  } catch (error) {
    if ((error as { code?: string }).code === "ENOSPC")
      throw new BackupError(file, "there is no room for it.", "Choose a disk with more room; nothing was left there.");
    throw error;
  } finally {
    await rm(work, { recursive: true, force: true });
  }
}

/**
 * A dump is one moment of the rows, not of how tables are made: one that was made while an update changed them might
 * not be read any more.
 *
 * @throws {BackupError} when tables were changed meanwhile
 */
export async function ofOneVersion<T>(options: ConnectionOptions, file: string, work: () => Promise<T>): Promise<T> {
  const before = await migrationsSoFar(options);
  const outcome = await work().then(
    (value) => ({ value }),
    (error: unknown) => ({ error }),
  );
  if ((await migrationsSoFar(options)) !== before)
    throw new BackupError(
      file,
      "meanwhile an update of Iteron has changed the tables.",
      "Make it again when the update is done; nothing was left there.",
    );
  if ("error" in outcome) throw outcome.error;
  return outcome.value;
}

async function writeDump(
  options: ConnectionOptions,
  path: string,
  { shop, estimate }: { shop?: string; estimate: number },
  progress: (at: Progress) => void,
  signal?: AbortSignal,
): Promise<Manifest["dump"]> {
  const out = new PassThrough();
  const hash = createHash("sha256");
  let [bytes, plainBytes] = [0, 0];
  const count = new Transform({
    transform(piece: Buffer, _, next) {
      plainBytes += piece.length;
      progress({ bytes: plainBytes, ofAbout: Math.max(estimate, plainBytes) });
      next(null, piece);
    },
  });
  const sum = new Transform({
    transform(piece: Buffer, _, next) {
      bytes += piece.length;
      hash.update(piece);
      next(null, piece);
    },
  });
  const written = pipeline(out, count, createGzip({ level: 2 }), sum, createWriteStream(path), { signal });
  const dumped = (async () => {
    for (const args of dumps(options.database, shop)) {
      const child = spawn("mariadb-dump", [...connectionArgs(options), ...args], {
        env: withPassword(options),
        signal,
      });
      child.stdout?.pipe(out, { end: false });
      await ended(child, options.database);
    }
    out.end();
  })().catch((error) => {
    out.destroy(error as Error);
    throw error;
  });
  await Promise.all([dumped, written]);
  return { bytes, plainBytes, sha256: hash.digest("hex") };
}

const DUMP_OPTIONS = [
  "--single-transaction",
  "--quick",
  "--hex-blob",
  "--no-tablespaces",
  "--skip-lock-tables",
  "--default-character-set=utf8mb4",
];

/** One run of the dump program for all; for one shop a second one for what has no column for it. */
function dumps(database: string, shop: string | undefined): string[][] {
  const momentary = MOMENTARY.map((t) => `--ignore-table-data=${database}.${t}`);
  if (!shop) return [[...DUMP_OPTIONS, ...momentary, database]];
  const shopless = SHOPLESS.map((t) => `--ignore-table-data=${database}.${t}`);
  return [
    [...DUMP_OPTIONS, ...momentary, ...shopless, `--where=shop_id = '${shop}'`, database],
    [...DUMP_OPTIONS, "--no-create-info", database, "migration", "migration_step"],
    [...DUMP_OPTIONS, "--no-create-info", `--where=id = '${shop}'`, database, "shop"],
  ];
}

const connectionArgs = ({ host, port, user }: ConnectionOptions) => [
  "--no-defaults",
  `--host=${host}`,
  `--port=${port}`,
  `--user=${user}`,
  "--protocol=tcp",
];

/** The password does not stand in the list of processes. */
const withPassword = ({ password }: ConnectionOptions) => ({ ...process.env, MYSQL_PWD: password });

/** Waits for a program; what it complains of becomes the error. */
async function ended(child: ChildProcess, where: string): Promise<void> {
  let complaint = "";
  child.stderr?.on("data", (d) => {
    complaint += d;
  });
  const [code] = (await Promise.race([
    once(child, "close"),
    once(child, "error").then(([error]) => {
      if ((error as { code?: string }).code !== "ENOENT") throw error as Error;
      throw new BackupError(
        child.spawnfile,
        "this program is not installed.",
        "Run ./iteron help to see what is needed.",
      );
    }),
  ])) as [number | null];
  if (code === 0) return;
  if (/No space left/i.test(complaint)) throw Object.assign(new Error(complaint), { code: "ENOSPC" });
  throw new BackupError(
    where,
    `${complaint.trim().split("\n").at(-1) ?? `the program ended with ${code}`}.`,
    "See that the database runs and the file is whole.",
  );
}

/** What a backup says of itself. @throws {BackupError} when it is none, is cut or comes from a newer program */
export async function readManifest(file: string, known: readonly string[]): Promise<Manifest> {
  if (!existsSync(file)) throw new BackupError(file, "there is no such file.", "Look at the name.");
  const names = await listed(file);
  if (names.length !== 2 || names[0] !== MANIFEST || names[1] !== DUMP)
    throw new BackupError(file, "this is no whole backup of Iteron.", "Take another one; nothing was changed.");
  const text = await textOf(spawn("tar", ["-xOf", file, MANIFEST]), file);
  const parsed = manifestSchema.safeParse(parsedJson(text));
  if (!parsed.success)
    throw new BackupError(file, "its manifest cannot be read.", "Take another one; nothing was changed.");
  const unknown = parsed.data.migrations.filter((m) => !known.includes(m));
  if (parsed.data.formatVersion > FORMAT || unknown.length > 0)
    throw new BackupError(
      file,
      `it was made by a newer Iteron${unknown.length > 0 ? ` (${unknown.join(", ")})` : ""}.`,
      "Bring this one up to date first; nothing was changed.",
    );
  return parsed.data;
}

function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

async function listed(file: string): Promise<string[]> {
  try {
    return (await textOf(spawn("tar", ["-tf", file]), file)).trim().split("\n");
  } catch (error) {
    if (error instanceof BackupError)
      throw new BackupError(file, "it is cut off or no backup.", "Take another one; nothing was changed.");
    throw error;
  }
}

async function textOf(child: ChildProcess, where: string): Promise<string> {
  let text = "";
  child.stdout?.on("data", (d) => {
    text += d;
    // Neither a list of two names nor a manifest is as long.
    if (text.length > MAX_TEXT) child.kill();
  });
  await ended(child, where);
  return text;
}

/**
 * Reads a backup to its end and compares its checksum.
 *
 * @param known migrations that this program has
 * @throws {BackupError}
 */
export async function verifyBackup(file: string, known: readonly string[]): Promise<Manifest> {
  const manifest = await readManifest(file, known);
  let tail = "";
  await readDump(file, manifest, async (plain) => {
    for await (const piece of plain) tail = (tail + String(piece)).slice(-400);
  });
  if (!/-- Dump completed/.test(tail))
    throw new BackupError(file, "its dump has no end.", "Take another one; nothing was changed.");
  return manifest;
}

/** Gives the dump to a reader and checks meanwhile that it is what the manifest says. */
async function readDump(file: string, { dump }: Manifest, read: (plain: Readable) => Promise<void>): Promise<void> {
  const child = spawn("tar", ["-xOf", file, DUMP], { stdio: ["ignore", "pipe", "pipe"] });
  const hash = createHash("sha256");
  const sum = new Transform({
    transform(piece: Buffer, _, next) {
      hash.update(piece);
      next(null, piece);
    },
  });
  const plain = createGunzip();
  const damaged = () =>
    new BackupError(file, "its dump is damaged: the checksum differs.", "Take another one; nothing was changed.");
  try {
    await Promise.all([pipeline(child.stdout, sum, plain), read(plain), ended(child, file)]);
  } catch (error) {
    if (error instanceof BackupError && error.where !== file) throw error;
    throw damaged();
  }
  if (hash.digest("hex") !== dump.sha256) throw damaged();
}

/** Reads a dump into a database that is empty. @throws {BackupError} with what the database complains of */
export async function loadDump(file: string, manifest: Manifest, into: ConnectionOptions): Promise<void> {
  const client = spawn("mariadb", [...connectionArgs(into), "--default-character-set=utf8mb4", into.database], {
    env: withPassword(into),
  });
  const loaded = ended(client, into.database);
  loaded.catch(() => undefined);
  await readDump(file, manifest, async (plain) => {
    await pipeline(plain, client.stdin as NodeJS.WritableStream);
  }).finally(() => client.stdin?.end());
  await loaded;
}

/** Bytes of a backup file. */
export async function sizeOf(file: string): Promise<number> {
  return (await stat(file)).size;
}
