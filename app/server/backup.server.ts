import { createWriteStream } from "node:fs";
import { mkdir, mkdtemp, readdir, rm, stat } from "node:fs/promises";
import { join, resolve } from "node:path";
import { pipeline } from "node:stream/promises";
import { BackupError, type Manifest, type Progress, verifyBackup, writeBackup } from "~/db/backup";
import { connectionFromEnvironment } from "~/db/database";
import { estimateOf } from "~/db/restore";
import { appliedMigrations } from "./db.server";

/** Backups of a shop that stay on the server; the oldest goes when a new one is whole. */
const KEPT = 3;
const NAME = /^iteron-\d{8}-\d{6}\.backup$/;

export interface ShopBackup {
  name: string;
  bytes: number;
  /** ISO 8601, UTC. */
  made: string;
}

const folderOf = (shopId: string) => join(resolve(process.env.ITERON_STATE ?? ".iteron"), "backups", shopId);

/** Backups of a shop that lie here, the newest first. */
export async function shopBackups(shopId: string): Promise<ShopBackup[]> {
  const names = (await readdir(folderOf(shopId)).catch(() => [])).filter((n) => NAME.test(n)).sort();
  const list = names.reverse().map(async (name) => {
    const { size, mtime } = await stat(join(folderOf(shopId), name));
    return { name, bytes: size, made: mtime.toISOString() };
  });
  return Promise.all(list);
}

/** The file of a backup of this shop; null for any other name. */
export async function shopBackupFile(shopId: string, name: string): Promise<string | null> {
  return (await shopBackups(shopId)).some((b) => b.name === name) ? join(folderOf(shopId), name) : null;
}

/** Backs up what belongs to a shop, reads it once more to its end, and lets go of the oldest. */
export async function backUpShop(
  shopId: string,
  progress: (at: Progress) => void,
  signal: AbortSignal,
): Promise<ShopBackup> {
  const options = connectionFromEnvironment(process.env);
  const migrations = await appliedMigrations();
  const stamp = new Date().toISOString().replace(/[-:]/g, "").replace("T", "-").slice(0, 15);
  const name = `iteron-${stamp}.backup`;
  await mkdir(folderOf(shopId), { recursive: true });
  const file = join(folderOf(shopId), name);
  await writeBackup(options, file, { migrations, shop: shopId, estimate: await estimateOf(options) }, progress, signal);
  await verifyBackup(file, migrations);
  for (const { name: old } of (await shopBackups(shopId)).slice(KEPT)) await rm(join(folderOf(shopId), old));
  const [made] = await shopBackups(shopId);
  if (!made) throw new Error("the backup is gone");
  return made;
}

/**
 * Reads a backup that somebody has kept to its end; nothing of it stays here.
 *
 * @returns when it was made and whether it is of this shop
 * @throws {BackupError} when it is none, is damaged or comes from a newer program
 */
export async function checkBackup(
  shopId: string,
  name: string,
  bytes: AsyncIterable<Uint8Array>,
  signal: AbortSignal,
): Promise<{ made: string; ofThisShop: boolean }> {
  await mkdir(folderOf(shopId), { recursive: true });
  const folder = await mkdtemp(join(folderOf(shopId), "check-"));
  try {
    const file = join(folder, "kept.backup");
    await pipeline(bytes, createWriteStream(file), { signal });
    const { made, shop } = await verifyBackup(file, await appliedMigrations()).catch(named(file, name));
    return { made, ofThisShop: shop === null || shop === shopId };
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Errors name the file as its owner knows it. */
function named(file: string, name: string) {
  return (error: unknown): Manifest => {
    if (error instanceof BackupError && error.where === file) throw new BackupError(name, error.problem, error.remedy);
    throw error;
  };
}
