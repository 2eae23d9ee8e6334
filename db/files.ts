import { createHash } from "node:crypto";
import { gunzipSync, gzipSync } from "node:zlib";
import { z } from "zod";
import { type Database, isDuplicate, type Sql } from "./database";
import { newId } from "./ids";

/** Bytes of a file before compression that go into one row; far below the packet limit. */
const CHUNK = 512 * 1024;

/** A file that is larger than allowed. */
export class TooLarge extends Error {
  constructor(readonly limitBytes: number) {
    super(`The file is larger than ${Math.floor(limitBytes / 1_000_000)} MB.`);
    this.name = "TooLarge";
  }
}

/** The identifier names another file already: of another job or person, or with other bytes. */
export class FileTaken extends Error {
  constructor() {
    super(
      "The identifier of this file is used by another one. Load the page again and send it anew; nothing was stored.",
    );
    this.name = "FileTaken";
  }
}

export interface NewFile {
  /** Made by the caller: the same file sent twice is one. */
  id: string;
  shopId: string;
  jobId: string;
  name: string;
  what: "log" | "dbc" | "photo";
  /** Who sends it; null for the program itself. */
  accountId: string | null;
}

export interface StoredFile {
  id: string;
  name: string;
  what: "log" | "dbc" | "photo";
  bytes: number;
  /** Key of its bytes. */
  contentId: string;
}

/**
 * Stores a stream of bytes as compressed chunk rows, never holding more than one chunk. Every attempt writes under a
 * key of its own and becomes the file when it is complete; one that fails removes what it wrote and nothing else.
 *
 * @throws {TooLarge} {FileTaken}
 */
export async function storeFile(
  db: Database,
  file: NewFile,
  stream: AsyncIterable<Uint8Array>,
  limitBytes: number,
): Promise<StoredFile> {
  const { contentId, bytes, sha256 } = await stageContent(db, file.shopId, stream, limitBytes);
  try {
    const stored = await complete(db, file, contentId, bytes, sha256);
    if (stored.contentId !== contentId) await removeContent(db, contentId);
    return stored;
  } catch (error) {
    await removeContent(db, contentId);
    throw error;
  }
}

/** Bytes that were written under a key of their own and are no file yet. */
export interface StagedContent {
  contentId: string;
  bytes: number;
  sha256: Uint8Array;
}

/** Writes bytes that are to become a file; when it throws nothing is left of them. @throws {TooLarge} */
export async function stageContent(
  db: Database,
  shopId: string,
  stream: AsyncIterable<Uint8Array>,
  limitBytes: number,
): Promise<StagedContent> {
  const contentId = newId();
  await db.run("INSERT INTO file_content (id, shop_id, created_at) VALUES (?, ?, ?)", [contentId, shopId, new Date()]);
  try {
    return { contentId, ...(await writeChunks(db, shopId, contentId, stream, limitBytes)) };
  } catch (error) {
    await removeContent(db, contentId);
    throw error;
  }
}

/** Makes a complete attempt the file, or finds that the same file is there. */
export async function complete(
  db: Sql,
  file: NewFile,
  contentId: string,
  bytes: number,
  sha256: Uint8Array,
): Promise<StoredFile> {
  try {
    await db.run(
      `INSERT INTO job_file (id, shop_id, job_id, name, what, bytes, content_id, account_id, sha256, created_at, stored_at)
       VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      [
        file.id,
        file.shopId,
        file.jobId,
        file.name,
        file.what,
        bytes,
        contentId,
        file.accountId,
        sha256,
        new Date(),
        new Date(),
      ],
    );
    return { id: file.id, name: file.name, what: file.what, bytes, contentId };
  } catch (error) {
    if (!isDuplicate(error)) throw error;
    const [existing] = await db.rows(
      fileRow,
      `SELECT ${COLUMNS} FROM job_file WHERE id = ? AND shop_id = ? AND job_id = ? AND account_id <=> ? AND sha256 = ?`,
      [file.id, file.shopId, file.jobId, file.accountId, sha256],
    );
    if (!existing) throw new FileTaken();
    return existing;
  }
}

async function writeChunks(
  sql: Sql,
  shopId: string,
  contentId: string,
  stream: AsyncIterable<Uint8Array>,
  limitBytes: number,
): Promise<{ bytes: number; sha256: Uint8Array }> {
  const hash = createHash("sha256");
  let pending: Uint8Array[] = [];
  let waiting = 0;
  let bytes = 0;
  let position = 0;
  const flush = async () => {
    if (waiting === 0) return;
    const data = gzipSync(Buffer.concat(pending), { level: 6 });
    pending = [];
    waiting = 0;
    await sql.run("INSERT INTO job_chunk (content_id, position, shop_id, data) VALUES (?, ?, ?, ?)", [
      contentId,
      position++,
      shopId,
      data,
    ]);
  };
  for await (const piece of stream) {
    bytes += piece.length;
    if (bytes > limitBytes) throw new TooLarge(limitBytes);
    hash.update(piece);
    pending.push(piece);
    waiting += piece.length;
    if (waiting >= CHUNK) await flush();
  }
  await flush();
  return { bytes, sha256: hash.digest() };
}

const COLUMNS = "id, name, what, bytes, content_id";
const fileRow = z
  .object({
    id: z.string(),
    name: z.string(),
    what: z.enum(["log", "dbc", "photo"]),
    bytes: z.number(),
    content_id: z.string(),
  })
  .transform((r): StoredFile => ({ id: r.id, name: r.name, what: r.what, bytes: r.bytes, contentId: r.content_id }));

/** A complete file of the job; null when it is unknown, of another shop or job, or was never completed. */
export async function storedFile(sql: Sql, shopId: string, jobId: string, id: string): Promise<StoredFile | null> {
  const rows = await sql.rows(
    fileRow,
    `SELECT ${COLUMNS} FROM job_file WHERE id = ? AND job_id = ? AND shop_id = ? AND stored_at IS NOT NULL`,
    [id, jobId, shopId],
  );
  return rows[0] ?? null;
}

/** All complete files of a job, the oldest first. */
export async function filesOf(sql: Sql, shopId: string, jobId: string): Promise<StoredFile[]> {
  return sql.rows(
    fileRow,
    `SELECT ${COLUMNS} FROM job_file WHERE job_id = ? AND shop_id = ? AND stored_at IS NOT NULL ORDER BY created_at, id`,
    [jobId, shopId],
  );
}

/** Other files of the job with the same bytes. */
export async function sameContent(sql: Sql, shopId: string, jobId: string, id: string): Promise<string[]> {
  const rows = await sql.rows(
    z.object({ id: z.string() }),
    `SELECT o.id FROM job_file f JOIN job_file o ON o.job_id = f.job_id AND o.sha256 = f.sha256 AND o.id <> f.id
     WHERE f.id = ? AND f.job_id = ? AND f.shop_id = ?`,
    [id, jobId, shopId],
  );
  return rows.map((r) => r.id);
}

/** The bytes of a file, chunk by chunk. */
export async function* readFile(
  sql: Sql,
  shopId: string,
  { contentId }: Pick<StoredFile, "contentId">,
): AsyncGenerator<Uint8Array> {
  for (let position = 0; ; position++) {
    const rows = await sql.rows(
      z.object({ data: z.instanceof(Uint8Array) }),
      "SELECT data FROM job_chunk WHERE content_id = ? AND position = ? AND shop_id = ?",
      [contentId, position, shopId],
    );
    if (!rows[0]) return;
    yield gunzipSync(rows[0].data);
  }
}

/** An attempt that is not complete after so long has broken off. */
const LEFTOVER_HOURS = 24;

/** Removes what uploads that broke off have left. Returns how many. */
export async function purgeLeftovers(sql: Sql, now = new Date()): Promise<number> {
  const rows = await sql.rows(
    z.object({ id: z.string() }),
    `SELECT c.id FROM file_content c LEFT JOIN job_file f ON f.content_id = c.id
     WHERE f.id IS NULL AND c.created_at < ? LIMIT 1000`,
    [new Date(now.getTime() - LEFTOVER_HOURS * 3_600_000)],
  );
  for (const { id } of rows) await removeContent(sql, id);
  return rows.length;
}

export async function removeContent(sql: Sql, contentId: string): Promise<void> {
  await sql.run("DELETE FROM job_chunk WHERE content_id = ?", [contentId]);
  await sql.run("DELETE FROM upload WHERE content_id = ?", [contentId]);
  await sql.run("DELETE FROM file_content WHERE id = ?", [contentId]);
}
