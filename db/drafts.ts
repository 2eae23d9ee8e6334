import { z } from "zod";
import { PROFILE_KINDS, type ProfileKind } from "../profiles/schema";
import type { Database, Sql } from "./database";

/** A document being written; it need not make sense yet. */
export interface Draft {
  id: string;
  kind: ProfileKind;
  title: string;
  /** JSON text as it was last saved. */
  document: string;
  version: number;
  updatedAt: Date;
  updatedBy: string;
}

const draftRow = z
  .object({
    id: z.string(),
    kind: z.enum(PROFILE_KINDS),
    title: z.string(),
    document: z.string(),
    version: z.number(),
    updated_at: z.date(),
    updated_by: z.string(),
  })
  .transform(
    (r): Draft => ({
      id: r.id,
      kind: r.kind,
      title: r.title,
      document: r.document,
      version: r.version,
      updatedAt: r.updated_at,
      updatedBy: r.updated_by,
    }),
  );
const COLUMNS = "id, kind, title, document, version, updated_at, updated_by";

/** Drafts of the shop, the one last worked on first. */
export function listDrafts(sql: Sql, shopId: string): Promise<Draft[]> {
  return sql.rows(
    draftRow,
    `SELECT ${COLUMNS} FROM profile_draft WHERE shop_id = ? ORDER BY updated_at DESC LIMIT 200`,
    [shopId],
  );
}

/** A draft of the shop; null for an unknown one and one of another shop. */
export async function draftById(sql: Sql, shopId: string, id: string): Promise<Draft | null> {
  const rows = await sql.rows(draftRow, `SELECT ${COLUMNS} FROM profile_draft WHERE shop_id = ? AND id = ?`, [
    shopId,
    id,
  ]);
  return rows[0] ?? null;
}

export interface DraftText {
  id: string;
  kind: ProfileKind;
  title: string;
  document: string;
  by: string;
}

/** Makes a draft; the same identifier twice is one draft. */
export async function createDraft(sql: Sql, shopId: string, draft: DraftText): Promise<void> {
  await sql.run(
    `INSERT INTO profile_draft (id, shop_id, kind, title, document, version, updated_at, updated_by)
     VALUES (?, ?, ?, ?, ?, 1, ?, ?) ON DUPLICATE KEY UPDATE id = id`,
    [draft.id, shopId, draft.kind, draft.title.slice(0, 600), draft.document, new Date(), draft.by],
  );
}

export type DraftSaved = { ok: true; version: number } | { ok: false; theirs: Draft | null };

/** Saves a draft over the version it was based on; somebody else's newer one is returned instead, untouched. */
export async function saveDraft(db: Database, shopId: string, draft: DraftText, basedOn: number): Promise<DraftSaved> {
  const changed = await db.run(
    "UPDATE profile_draft SET title = ?, document = ?, version = version + 1, updated_at = ?, updated_by = ? WHERE shop_id = ? AND id = ? AND version = ?",
    [draft.title.slice(0, 600), draft.document, new Date(), draft.by, shopId, draft.id, basedOn],
  );
  if (changed === 1) return { ok: true, version: basedOn + 1 };
  const theirs = await draftById(db, shopId, draft.id);
  // The same text sent twice is not a conflict.
  return theirs?.document === draft.document ? { ok: true, version: theirs.version } : { ok: false, theirs };
}

/** Removes a draft, after it was released or thrown away. */
export async function deleteDraft(sql: Sql, shopId: string, id: string): Promise<void> {
  await sql.run("DELETE FROM profile_draft WHERE shop_id = ? AND id = ?", [shopId, id]);
}
