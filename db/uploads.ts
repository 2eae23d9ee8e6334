/** Files that come in pieces: one that broke off goes on where it was. */
import { createHash } from "node:crypto";
import { gzipSync } from "node:zlib";
import { z } from "zod";
import { type Database, isDuplicate, type Sql } from "./database";
import { complete, FileTaken, type NewFile, readFile, removeContent, type StoredFile, storedFile } from "./files";
import { newId } from "./ids";

/** An upload by the identifier of the file that it becomes, and whose it is. */
export type Upload = Pick<NewFile, "id" | "shopId" | "jobId"> & { accountId: string };

const uploadRow = z
  .object({
    job_id: z.string(),
    account_id: z.string(),
    content_id: z.string(),
    received: z.number(),
    pieces: z.number(),
  })
  .transform((r) => ({
    jobId: r.job_id,
    accountId: r.account_id,
    contentId: r.content_id,
    received: r.received,
    pieces: r.pieces,
  }));
type UploadRow = z.infer<typeof uploadRow>;

async function rowOf(sql: Sql, { id, shopId, jobId, accountId }: Upload, lock: boolean): Promise<UploadRow | null> {
  const [row] = await sql.rows(
    uploadRow,
    `SELECT job_id, account_id, content_id, received, pieces FROM upload WHERE id = ? AND shop_id = ?${lock ? " FOR UPDATE" : ""}`,
    [id, shopId],
  );
  if (row && (row.jobId !== jobId || row.accountId !== accountId)) throw new FileTaken();
  return row ?? null;
}

/**
 * Bytes that are here already; what follows them is to be sent.
 *
 * @throws {FileTaken} when the identifier is another's
 */
export async function receivedBytes(sql: Sql, upload: Upload): Promise<number> {
  return (await rowOf(sql, upload, false))?.received ?? 0;
}

/**
 * Takes the piece that begins at byte `at`, when all before it is here. Returns how many bytes are here then: when that is
 * not the end of the piece, it was not taken and the next one begins there.
 *
 * @throws {FileTaken}
 */
export async function takePiece(db: Database, upload: Upload, at: number, piece: Uint8Array): Promise<number> {
  try {
    return await db.transaction(async (sql) => {
      const row = (await rowOf(sql, upload, true)) ?? (at === 0 ? await begin(sql, upload) : null);
      if (!row || row.received !== at) return row?.received ?? 0;
      // It is compressed already.
      await sql.run("INSERT INTO job_chunk (content_id, position, shop_id, data) VALUES (?, ?, ?, ?)", [
        row.contentId,
        row.pieces,
        upload.shopId,
        gzipSync(piece, { level: 0 }),
      ]);
      await sql.run("UPDATE upload SET received = ?, pieces = ? WHERE id = ? AND shop_id = ?", [
        at + piece.length,
        row.pieces + 1,
        upload.id,
        upload.shopId,
      ]);
      return at + piece.length;
    });
  } catch (error) {
    // The same first piece came twice at once; the other one counts.
    if (isDuplicate(error)) return receivedBytes(db, upload);
    throw error;
  }
}

async function begin(sql: Sql, { id, shopId, jobId, accountId }: Upload): Promise<UploadRow> {
  const contentId = newId();
  const now = new Date();
  await sql.run("INSERT INTO file_content (id, shop_id, created_at) VALUES (?, ?, ?)", [contentId, shopId, now]);
  await sql.run(
    "INSERT INTO upload (id, shop_id, job_id, account_id, content_id, received, pieces, created_at) VALUES (?, ?, ?, ?, ?, 0, 0, ?)",
    [id, shopId, jobId, accountId, contentId, now],
  );
  return { jobId, accountId, contentId, received: 0, pieces: 0 };
}

/**
 * Makes what was received the file, after `check` has looked at all of it. When it throws, nothing is left of the upload.
 * A file that is complete already is given back as it is.
 *
 * @throws {FileTaken} and what `check` throws
 */
export async function finishUpload(
  db: Database,
  file: NewFile & Upload,
  check: (bytes: AsyncIterable<Uint8Array>) => Promise<void>,
): Promise<StoredFile> {
  const row = await rowOf(db, file, false);
  if (!row) {
    const stored = await storedFile(db, file.shopId, file.jobId, file.id);
    if (!stored) throw new FileTaken();
    return stored;
  }
  const hash = createHash("sha256");
  async function* hashed(content: AsyncIterable<Uint8Array>) {
    for await (const piece of content) {
      hash.update(piece);
      yield piece;
    }
  }
  try {
    await check(hashed(readFile(db, file.shopId, row)));
    const stored = await complete(db, file, row.contentId, row.received, hash.digest());
    await db.run("DELETE FROM upload WHERE id = ? AND shop_id = ?", [file.id, file.shopId]);
    return stored;
  } catch (error) {
    await db.run("DELETE FROM upload WHERE id = ? AND shop_id = ?", [file.id, file.shopId]);
    await removeContent(db, row.contentId);
    throw error;
  }
}
