import { z } from "zod";
import { searchWords, wordsOf } from "../core/library/words";
import { checkProfile } from "../profiles/read";
import type { Profile, ProfileKind } from "../profiles/schema";
import type { Sql, Value } from "./database";
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
  await storeWords(sql, shopId, profile);
  return { id, version, ...head, fresh: true };
}

/** Renews the words by which the newest version is found. */
async function storeWords(sql: Sql, shopId: string, profile: Profile): Promise<void> {
  const owner = [shopId, profile.document, profile.id];
  await sql.run("DELETE FROM profile_word WHERE shop_id = ? AND kind = ? AND slug = ?", owner);
  const words = searchWords(profile);
  for (let at = 0; at < words.length; at += 200) {
    const some = words.slice(at, at + 200);
    await sql.run(
      `INSERT INTO profile_word (shop_id, field, word, kind, slug) VALUES ${some.map(() => "(?, ?, ?, ?, ?)").join(", ")}`,
      some.flatMap((w) => [shopId, w.field, w.word, profile.document, profile.id]),
    );
  }
}

/** What a search asks for; empty members ask for nothing. */
export interface ProfileQuery {
  text: string;
  kind: ProfileKind | "";
  connector: string;
  ways: string;
  year: string;
  country: string;
  screen: string;
}

export interface ProfileHit extends ProfileHead {
  /** Closed jobs fitted with this kit, or with this radio. */
  closedJobs: number;
}

/** How many hits a search returns; more than a person reads. */
export const MOST_HITS = 60;

/**
 * Newest versions that have every word of the query, by the beginning of the word for free text and connectors,
 * whole for the other fields. Returns at most `MOST_HITS` and the number of all.
 */
export async function searchProfiles(
  sql: Sql,
  shopId: string,
  query: ProfileQuery,
): Promise<{ hits: ProfileHit[]; total: number }> {
  const asked: [field: string, pattern: string][] = [
    ...wordsOf(query.text).map((w): [string, string] => ["text", `${w}%`]),
    ...(query.connector ? [["connector", `${likeText(query.connector.toLowerCase())}%`] as [string, string]] : []),
    ...(["ways", "year", "country", "screen"] as const).flatMap((field): [string, string][] =>
      query[field] ? [[field, likeText(query[field].toLowerCase())]] : [],
    ),
  ];
  const words = asked.map(() => "SELECT kind, slug FROM profile_word WHERE shop_id = ? AND field = ? AND word LIKE ?");
  const values: Value[] = asked.flatMap(([field, pattern]) => [shopId, field, pattern]);
  const found = words.length > 0 ? `JOIN (${words.join(" INTERSECT ")}) w ON w.kind = n.kind AND w.slug = n.slug` : "";
  const byKind = query.kind ? "AND kind = ?" : "";
  const kindValues: Value[] = query.kind ? [query.kind] : [];
  const newest = `(SELECT kind, slug, MAX(version) AS version FROM profile WHERE shop_id = ? ${byKind} GROUP BY kind, slug)`;
  const [count] = await sql.rows(z.object({ n: z.number() }), `SELECT COUNT(*) AS n FROM ${newest} n ${found}`, [
    shopId,
    ...kindValues,
    ...values,
  ]);
  const hits = await sql.rows(
    z.object({ closed_jobs: z.number() }).loose(),
    `SELECT p.id, p.kind, p.slug, p.version, p.title, p.created_by,
       (SELECT COUNT(*) FROM job j WHERE j.shop_id = p.shop_id AND j.closed_at IS NOT NULL
          AND ((p.kind = 'kit' AND j.kit_slug = p.slug) OR (p.kind = 'variant' AND j.variant_slug = p.slug))) AS closed_jobs
     FROM ${newest} n ${found}
     JOIN profile p ON p.shop_id = ? AND p.kind = n.kind AND p.slug = n.slug AND p.version = n.version
     ORDER BY p.kind, p.title LIMIT ${MOST_HITS}`,
    [shopId, ...kindValues, ...values, shopId],
  );
  return {
    hits: hits.map((r) => ({ ...headRow.parse(r), closedJobs: r.closed_jobs })),
    total: count?.n ?? 0,
  };
}

function likeText(text: string): string {
  return text.replace(/[\\%_]/g, "\\$&");
}

/** Every version of one profile, newest first. */
export async function versionsOf(
  sql: Sql,
  shopId: string,
  kind: ProfileKind,
  slug: string,
): Promise<(ProfileHead & { createdAt: Date })[]> {
  const rows = await sql.rows(
    z.object({ created_at: z.date() }).loose(),
    "SELECT id, kind, slug, version, title, created_by, created_at FROM profile WHERE shop_id = ? AND kind = ? AND slug = ? ORDER BY version DESC",
    [shopId, kind, slug],
  );
  return rows.map((r) => ({ ...headRow.parse(r), createdAt: r.created_at }));
}

/** One version of a profile; the newest when no version is named. */
export async function profileByPin(
  sql: Sql,
  shopId: string,
  kind: ProfileKind,
  slug: string,
  version?: number,
): Promise<{ id: string; profile: Profile } | null> {
  const rows = await sql.rows(
    z.object({ id: z.string(), document: z.string() }),
    `SELECT id, document FROM profile WHERE shop_id = ? AND kind = ? AND slug = ? ${version === undefined ? "" : "AND version = ?"}
     ORDER BY version DESC LIMIT 1`,
    [shopId, kind, slug, ...(version === undefined ? [] : [version])],
  );
  return rows[0] ? { id: rows[0].id, profile: parsed(rows[0].id, rows[0].document) } : null;
}

/** Newest documents of one kind; for variants those of one car. */
export async function newestDocuments(sql: Sql, shopId: string, kind: ProfileKind): Promise<Profile[]> {
  const rows = await sql.rows(
    z.object({ id: z.string(), document: z.string() }),
    `SELECT p.id, p.document FROM profile p
     JOIN (SELECT slug, MAX(version) AS version FROM profile WHERE shop_id = ? AND kind = ? GROUP BY slug) n
       ON n.slug = p.slug AND n.version = p.version
     WHERE p.shop_id = ? AND p.kind = ? ORDER BY p.title`,
    [shopId, kind, shopId, kind],
  );
  return rows.map((r) => parsed(r.id, r.document));
}

/** Stored documents never change, so a checked one may be kept; a few hundred are. */
const kept = new Map<string, Profile>();
const MOST_KEPT = 800;

function parsed(id: string, document: string): Profile {
  const there = kept.get(id);
  if (there) return there;
  const profile = checkProfile(JSON.parse(document));
  kept.set(id, profile);
  const oldest = kept.keys().next().value;
  if (kept.size > MOST_KEPT && oldest) kept.delete(oldest);
  return profile;
}

/** A profile of the shop by row; null when it has none. */
export async function profileById(sql: Sql, shopId: string, id: string): Promise<Profile | null> {
  const rows = await sql.rows(documentRow, "SELECT document FROM profile WHERE shop_id = ? AND id = ?", [shopId, id]);
  return rows[0] ? parsed(id, rows[0].document) : null;
}
