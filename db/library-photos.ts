import { createHash } from "node:crypto";
import { z } from "zod";
import { LIBRARY_PHOTO_LIMIT_BYTES, photoType } from "../core/job/photo";
import { CoreError } from "../core/model/errors";
import type { Profile } from "../profiles/schema";
import type { Sql } from "./database";

/** What was sent is no picture, too large a one, or not what its name says. */
export class PhotoError extends CoreError {}

/** The name of a photo: what it holds, as SHA-256 in hexadecimal digits. */
export function photoName(bytes: Uint8Array): string {
  return createHash("sha256").update(bytes).digest("hex");
}

/**
 * Stores a photo of the library; the same one twice is one.
 *
 * @returns its name
 * @throws {PhotoError} when it is no picture or too large
 */
export async function storePhoto(sql: Sql, shopId: string, bytes: Uint8Array, by: string): Promise<string> {
  if (bytes.length > LIBRARY_PHOTO_LIMIT_BYTES)
    throw new PhotoError(
      "photo",
      `it has more than ${LIBRARY_PHOTO_LIMIT_BYTES / 1_000_000} MB.`,
      "Take it with a lower resolution; nothing was stored.",
    );
  if (photoType(bytes) === null)
    throw new PhotoError(
      "photo",
      "it is no picture that can be shown (JPEG, PNG or WebP).",
      "Choose another; nothing was stored.",
    );
  const name = photoName(bytes);
  await sql.run(
    "INSERT IGNORE INTO library_photo (shop_id, sha256, data, created_at, created_by) VALUES (?, UNHEX(?), ?, UTC_TIMESTAMP(3), ?)",
    [shopId, name, Buffer.from(bytes), by],
  );
  return name;
}

/** A photo of the shop's library by its name; null when the shop does not have it. */
export async function libraryPhoto(sql: Sql, shopId: string, name: string): Promise<Uint8Array | null> {
  const [row] = await sql.rows(
    z.object({ data: z.instanceof(Uint8Array) }),
    "SELECT data FROM library_photo WHERE shop_id = ? AND sha256 = UNHEX(?)",
    [shopId, name],
  );
  return row?.data ?? null;
}

/** The names of all photos of documents, each once. */
export function photosOf(profiles: readonly Profile[]): string[] {
  const parts = profiles.flatMap((p) => ("parts" in p ? p.parts : []));
  return [...new Set(parts.flatMap((part) => (part.photos ?? []).map((photo) => photo.sha256)))];
}
