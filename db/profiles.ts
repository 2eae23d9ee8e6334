import { z } from "zod";
import { checkProfile } from "../profiles/read";
import { carSchema, kitSchema, type Profile, type ProfileKind, variantSchema } from "../profiles/schema";
import type { Sql } from "./database";
import { newId } from "./ids";

export interface ProfileHead {
  id: string;
  kind: ProfileKind;
  slug: string;
  version: number;
  title: string;
  createdBy: string;
}

const headRow = z
  .object({
    id: z.string(),
    kind: z.enum(["car", "variant", "kit"]),
    slug: z.string(),
    version: z.number(),
    title: z.string(),
    created_by: z.string(),
  })
  .transform(
    (r): ProfileHead => ({
      id: r.id,
      kind: r.kind,
      slug: r.slug,
      version: r.version,
      title: r.title,
      createdBy: r.created_by,
    }),
  );
const documentRow = z.object({ document: z.string() });

/** Newest version of every profile of the shop. */
export async function listProfiles(sql: Sql, shopId: string): Promise<ProfileHead[]> {
  return sql.rows(
    headRow,
    `SELECT p.id, p.kind, p.slug, p.version, p.title, p.created_by FROM profile p
     JOIN (SELECT kind, slug, MAX(version) AS newest FROM profile WHERE shop_id = ? GROUP BY kind, slug) n
       ON n.kind = p.kind AND n.slug = p.slug AND n.newest = p.version
     WHERE p.shop_id = ? ORDER BY p.kind, p.title`,
    [shopId, shopId],
  );
}

/** Stores a profile as the next version of its identifier. A document equal to the newest version is not stored again. */
export async function saveProfile(
  sql: Sql,
  shopId: string,
  profile: Profile,
  by: string,
): Promise<ProfileHead & { fresh: boolean }> {
  const newest = await sql.rows(
    z.object({ id: z.string(), version: z.number(), document: z.string() }),
    "SELECT id, version, document FROM profile WHERE shop_id = ? AND kind = ? AND slug = ? ORDER BY version DESC LIMIT 1",
    [shopId, profile.document, profile.id],
  );
  const before = newest[0];
  const head = { kind: profile.document, slug: profile.id, title: profile.title, createdBy: by };
  if (before && before.document === JSON.stringify({ ...profile, version: before.version }))
    return { id: before.id, version: before.version, ...head, fresh: false };
  const version = (before?.version ?? 0) + 1;
  const id = newId();
  await sql.run(
    "INSERT INTO profile (id, shop_id, kind, slug, version, title, document, created_at, created_by) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
    [
      id,
      shopId,
      profile.document,
      profile.id,
      version,
      profile.title,
      JSON.stringify({ ...profile, version }),
      new Date(),
      by,
    ],
  );
  return { id, version, ...head, fresh: true };
}

/** A profile of the shop by row; null when it has none. */
export async function profileById(sql: Sql, shopId: string, id: string): Promise<Profile | null> {
  const rows = await sql.rows(documentRow, "SELECT document FROM profile WHERE shop_id = ? AND id = ?", [shopId, id]);
  return rows[0] ? checkProfile(JSON.parse(rows[0].document)) : null;
}

/** The three documents of a job, typed; null when one is missing. */
export async function jobDocuments(sql: Sql, shopId: string, ids: { car: string; variant: string; kit: string }) {
  const rows = await sql.rows(
    z.object({ id: z.string(), document: z.string() }),
    "SELECT id, document FROM profile WHERE shop_id = ? AND id IN (?, ?, ?)",
    [shopId, ids.car, ids.variant, ids.kit],
  );
  const of = (id: string): unknown => JSON.parse(rows.find((r) => r.id === id)?.document ?? "null");
  if (rows.length < 3) return null;
  return {
    car: carSchema.parse(of(ids.car)),
    variant: variantSchema.parse(of(ids.variant)),
    kit: kitSchema.parse(of(ids.kit)),
  };
}
