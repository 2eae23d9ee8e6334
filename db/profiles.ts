import { z } from "zod";
import { searchWords, wordsOf } from "../core/library/search-words";
import { checkProfile } from "../profiles/read";
import { PROFILE_KINDS, type Profile, type ProfileKind } from "../profiles/schema";
import { keep, recall, recallOr } from "./cache";
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
    kind: z.enum(PROFILE_KINDS),
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
    `SELECT profile_id AS id, kind, slug, version, title, created_by FROM profile_newest
     WHERE shop_id = ? ORDER BY kind, title`,
    [shopId],
  );
}

/**
 * Stores a profile as the next version of its identifier. A document equal to the last version is not stored again.
 *
 * @param beside what comes with a job from elsewhere stands beside the shop's own: it is the newest only where there is
 *   none
 */
export async function saveProfile(
  sql: Sql,
  shopId: string,
  profile: Profile,
  by: string,
  { beside = false } = {},
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
  if (!beside || !before) await storeNewest(sql, shopId, { id, version, ...head }, profile);
  return { id, version, ...head, fresh: true };
}

/** Makes a version of a profile the one that new jobs take. Returns false when the shop has no such version. */
export async function takeVersion(
  sql: Sql,
  shopId: string,
  pin: { kind: ProfileKind; slug: string; version: number },
): Promise<boolean> {
  const [found, head] = [
    await profileByPin(sql, shopId, pin.kind, pin.slug, pin.version),
    (await versionsOf(sql, shopId, pin.kind, pin.slug)).find((v) => v.version === pin.version),
  ];
  if (!found || !head) return false;
  await storeNewest(sql, shopId, head, found.profile);
  return true;
}

/** Makes a stored version the newest one, with the words by which it is found. */
async function storeNewest(sql: Sql, shopId: string, head: ProfileHead, profile: Profile): Promise<void> {
  const found = searchWords(profile);
  const words = found.filter((w) => w.field === "text").map((w) => ` ${w.word}`);
  const facets = found.filter((w) => w.field !== "text").map((w) => `${w.field}:${w.word}|`);
  await sql.run(
    `REPLACE INTO profile_newest (shop_id, kind, slug, profile_id, version, title, created_by, words, facets)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    [
      shopId,
      head.kind,
      head.slug,
      head.id,
      head.version,
      head.title,
      head.createdBy,
      words.join(""),
      `|${facets.join("")}`,
    ],
  );
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
  /** Closed jobs with this kit, this radio, this car. */
  closedJobs: number;
}

/** How many hits a search returns; more than a person reads. */
const MAX_HITS = 60;

/**
 * Newest versions that have every word of the query, by the beginning of the word for free text and connectors,
 * whole for the other fields. Returns at most `MAX_HITS` and the number of all.
 */
export async function searchProfiles(
  sql: Sql,
  shopId: string,
  query: ProfileQuery,
): Promise<{ hits: ProfileHit[]; total: number }> {
  const facet = (field: string, text: string, whole: boolean) =>
    text ? [`%|${field}:${likeText(text.toLowerCase())}${whole ? "|" : ""}%`] : [];
  const words = wordsOf(query.text).map((w) => `% ${likeText(w)}%`);
  const facets = [
    ...facet("connector", query.connector, false),
    ...(["ways", "year", "country", "screen"] as const).flatMap((field) => facet(field, query[field], true)),
  ];
  const where = [
    "shop_id = ?",
    ...(query.kind ? ["kind = ?"] : []),
    ...words.map(() => "words LIKE ?"),
    ...facets.map(() => "facets LIKE ?"),
  ].join(" AND ");
  const values: Value[] = [shopId, ...(query.kind ? [query.kind] : []), ...words, ...facets];
  const rows = await sql.rows(
    z.object({ closed_jobs: z.number(), total: z.number() }).loose(),
    `SELECT h.*, CASE h.kind
         WHEN 'kit' THEN (SELECT COUNT(*) FROM job WHERE shop_id = ? AND kit_slug = h.slug AND closed_at IS NOT NULL)
         WHEN 'variant' THEN (SELECT COUNT(*) FROM job WHERE shop_id = ? AND variant_slug = h.slug AND closed_at IS NOT NULL)
         ELSE (SELECT COUNT(*) FROM job WHERE shop_id = ? AND car_slug = h.slug AND closed_at IS NOT NULL)
       END AS closed_jobs
     FROM (SELECT profile_id AS id, kind, slug, version, title, created_by, COUNT(*) OVER () AS total
           FROM profile_newest WHERE ${where} ORDER BY kind, title LIMIT ${MAX_HITS}) h
     ORDER BY h.kind, h.title`,
    [shopId, shopId, shopId, ...values],
  );
  return {
    hits: rows.map((r) => ({ ...headRow.parse(r), closedJobs: r.closed_jobs })),
    total: rows[0]?.total ?? 0,
  };
}

function likeText(text: string): string {
  return text.replace(/[\\%_]/g, "\\$&");
}

/** One import of a shop after the other: a profile that is not there yet has no row of its own to lock. */
export async function lockImports(sql: Sql, shopId: string): Promise<void> {
  await sql.rows(z.object({ id: z.string() }), "SELECT id FROM shop WHERE id = ? FOR UPDATE", [shopId]);
}

/** Newest version of a profile, 0 for none; a row that is there is locked until the transaction ends. */
export async function lockedVersion(sql: Sql, shopId: string, kind: ProfileKind, slug: string): Promise<number> {
  const [row] = await sql.rows(
    z.object({ version: z.number() }),
    "SELECT version FROM profile_newest WHERE shop_id = ? AND kind = ? AND slug = ? FOR UPDATE",
    [shopId, kind, slug],
  );
  return row?.version ?? 0;
}

/** How often each profile of the shop was in a closed job, by kind and identifier. */
export async function closedJobsOf(sql: Sql, shopId: string): Promise<ReadonlyMap<string, number>> {
  const rows = await sql.rows(
    z.object({ kind: z.string(), slug: z.string(), jobs: z.number() }),
    `SELECT kind, slug, COUNT(*) AS jobs FROM (
       SELECT 'kit' AS kind, kit_slug AS slug FROM job WHERE shop_id = ? AND closed_at IS NOT NULL
       UNION ALL SELECT 'variant', variant_slug FROM job WHERE shop_id = ? AND closed_at IS NOT NULL
       UNION ALL SELECT 'car', car_slug FROM job WHERE shop_id = ? AND closed_at IS NOT NULL
     ) used WHERE slug IS NOT NULL GROUP BY kind, slug`,
    [shopId, shopId, shopId],
  );
  return new Map(rows.map((r) => [`${r.kind} ${r.slug}`, r.jobs]));
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
  const key = `${shopId} ${kind} ${slug} ${version}`;
  const known = version === undefined ? undefined : recall<{ id: string; profile: Profile }>("document", key);
  if (known) return known;
  const rows = await sql.rows(
    z.object({ id: z.string(), document: z.string() }),
    version === undefined
      ? `SELECT p.id, p.document FROM profile_newest n JOIN profile p ON p.id = n.profile_id
         WHERE n.shop_id = ? AND n.kind = ? AND n.slug = ?`
      : "SELECT id, document FROM profile WHERE shop_id = ? AND kind = ? AND slug = ? AND version = ?",
    [shopId, kind, slug, ...(version === undefined ? [] : [version])],
  );
  const [row] = rows;
  if (!row) return null;
  const found = { id: row.id, profile: parsed(shopId, row.id, row.document) };
  return version === undefined ? found : keep("document", key, found, 1);
}

/** Newest documents of one kind, by title. Only those that this server has not read yet come from the database. */
export async function newestDocuments(sql: Sql, shopId: string, kind: ProfileKind): Promise<Profile[]> {
  const heads = await sql.rows(
    z.object({ id: z.string() }),
    "SELECT profile_id AS id FROM profile_newest WHERE shop_id = ? AND kind = ? ORDER BY title",
    [shopId, kind],
  );
  const documents = new Map<string, Profile>();
  const missing: string[] = [];
  for (const { id } of heads) {
    const known = recall<Profile>("document", `${shopId} ${id}`);
    if (known) documents.set(id, known);
    else missing.push(id);
  }
  for (let at = 0; at < missing.length; at += BATCH) {
    const some = missing.slice(at, at + BATCH);
    const rows = await sql.rows(
      z.object({ id: z.string(), document: z.string() }),
      `SELECT id, document FROM profile WHERE shop_id = ? AND id IN (${some.map(() => "?").join(", ")})`,
      [shopId, ...some],
    );
    for (const row of rows) documents.set(row.id, parsed(shopId, row.id, row.document));
  }
  return heads.flatMap(({ id }) => documents.get(id) ?? []);
}

/** Documents read in one query; a document has some tens of kilobytes. */
const BATCH = 100;

/** Stored documents never change, so a checked one is kept. */
function parsed(shopId: string, id: string, document: string): Profile {
  // A parsed document takes about four times its text.
  return recallOr("document", `${shopId} ${id}`, document.length / 256, () => checkProfile(JSON.parse(document)));
}

/** A profile of the shop by row; null when it has none. */
export async function profileById(sql: Sql, shopId: string, id: string): Promise<Profile | null> {
  const known = recall<Profile>("document", `${shopId} ${id}`);
  if (known) return known;
  const rows = await sql.rows(documentRow, "SELECT document FROM profile WHERE shop_id = ? AND id = ?", [shopId, id]);
  return rows[0] ? parsed(shopId, id, rows[0].document) : null;
}
