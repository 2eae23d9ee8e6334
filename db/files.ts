import { gunzipSync, gzipSync } from "node:zlib";
import { z } from "zod";
import type { Sql } from "./database";

/** Bytes of a file before compression that go into one row; far below the packet limit. */
const CHUNK = 512 * 1024;

/** A file that is larger than allowed. */
export class TooLarge extends Error {
  constructor(readonly limitBytes: number) {
    super(`The file is larger than ${Math.floor(limitBytes / 1_000_000)} MB.`);
    this.name = "TooLarge";
  }
}

export interface StoredFile {
  id: string;
  name: string;
  bytes: number;
}

/**
 * Stores a stream of bytes as compressed chunk rows, never holding more than one chunk. Above the limit everything
 * written is removed again. The same identifier twice is one file.
 *
 * @throws {TooLarge}
 */
export async function storeFile(
  sql: Sql,
  shopId: string,
  jobId: string,
  file: { id: string; name: string },
  stream: AsyncIterable<Uint8Array>,
  limitBytes: number,
): Promise<StoredFile> {
  const there = await storedFile(sql, shopId, jobId, file.id);
  if (there) return there;
  await removeFile(sql, shopId, file.id);
  await sql.run("INSERT INTO job_file (id, shop_id, job_id, name, bytes, created_at) VALUES (?, ?, ?, ?, 0, ?)", [
    file.id,
    shopId,
    jobId,
    file.name,
    new Date(),
  ]);
  try {
    const bytes = await writeChunks(sql, shopId, file.id, stream, limitBytes);
    await sql.run("UPDATE job_file SET bytes = ?, stored_at = ? WHERE id = ? AND shop_id = ?", [
      bytes,
      new Date(),
      file.id,
      shopId,
    ]);
    return { ...file, bytes };
  } catch (error) {
    await removeFile(sql, shopId, file.id);
    throw error;
  }
}

async function writeChunks(
  sql: Sql,
  shopId: string,
  id: string,
  stream: AsyncIterable<Uint8Array>,
  limitBytes: number,
): Promise<number> {
  let pending: Uint8Array[] = [];
  let waiting = 0;
  let total = 0;
  let position = 0;
  const flush = async () => {
    if (waiting === 0) return;
    const data = gzipSync(Buffer.concat(pending), { level: 6 });
    pending = [];
    waiting = 0;
    await sql.run("INSERT INTO job_chunk (file_id, position, shop_id, data) VALUES (?, ?, ?, ?)", [
      id,
      position++,
      shopId,
      data,
    ]);
  };
  for await (const piece of stream) {
    total += piece.length;
    if (total > limitBytes) throw new TooLarge(limitBytes);
    pending.push(piece);
    waiting += piece.length;
    if (waiting >= CHUNK) await flush();
  }
  await flush();
  return total;
}

/** A complete file of the job; null when it is unknown, of another shop, or was never completed. */
export async function storedFile(sql: Sql, shopId: string, jobId: string, id: string): Promise<StoredFile | null> {
  const rows = await sql.rows(
    z.object({ id: z.string(), name: z.string(), bytes: z.number() }),
    "SELECT id, name, bytes FROM job_file WHERE id = ? AND job_id = ? AND shop_id = ? AND stored_at IS NOT NULL",
    [id, jobId, shopId],
  );
  return rows[0] ?? null;
}

/** The bytes of a file, chunk by chunk. */
export async function* readFile(sql: Sql, shopId: string, id: string): AsyncGenerator<Uint8Array> {
  for (let position = 0; ; position++) {
    const rows = await sql.rows(
      z.object({ data: z.instanceof(Uint8Array) }),
      "SELECT data FROM job_chunk WHERE file_id = ? AND position = ? AND shop_id = ?",
      [id, position, shopId],
    );
    if (!rows[0]) return;
    yield gunzipSync(rows[0].data);
  }
}

async function removeFile(sql: Sql, shopId: string, id: string): Promise<void> {
  await sql.run("DELETE FROM job_chunk WHERE file_id = ? AND shop_id = ?", [id, shopId]);
  await sql.run("DELETE FROM job_file WHERE id = ? AND shop_id = ?", [id, shopId]);
}
