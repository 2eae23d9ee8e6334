import { z } from "zod";
import type { Experience } from "../core/diagnose/learned";
import type { BoardLine } from "../core/job/board-line";
import type { JobEntry } from "../core/log/entry";
import { readEntryBody } from "../profiles/job";
import { type Database, isDuplicate, type Sql } from "./database";

export interface JobRow {
  id: string;
  number: number;
  title: string;
  customer: string;
  carProfile: string;
  /** Radio variant and kit with which the job was opened; entries of the log may have named others since. */
  variantProfile: string | null;
  kitProfile: string | null;
  stage: string;
  nextAction: string;
  kitTitle: string;
  version: number;
  closedAt: Date | null;
  createdAt: Date;
  /** Who brought it from elsewhere; null for a job of this shop. */
  importedBy: string | null;
  /** A stand-in car answers; no real car is worked on. Known where a single job is read. */
  practice: boolean;
}

const COLUMNS =
  "id, number, title, customer, car_profile, variant_profile, kit_profile, stage, next_action, kit_title, version, closed_at, created_at, imported_by";
const jobRow = z
  .object({
    id: z.string(),
    number: z.number(),
    title: z.string(),
    customer: z.string(),
    car_profile: z.string(),
    variant_profile: z.string().nullable(),
    kit_profile: z.string().nullable(),
    stage: z.string(),
    next_action: z.string(),
    kit_title: z.string(),
    version: z.number(),
    closed_at: z.date().nullable(),
    created_at: z.date(),
    imported_by: z.string().nullable(),
    practice: z.number().default(0),
  })
  .transform(
    (r): JobRow => ({
      id: r.id,
      number: r.number,
      title: r.title,
      customer: r.customer,
      carProfile: r.car_profile,
      variantProfile: r.variant_profile,
      kitProfile: r.kit_profile,
      stage: r.stage,
      nextAction: r.next_action,
      kitTitle: r.kit_title,
      version: r.version,
      closedAt: r.closed_at,
      createdAt: r.created_at,
      importedBy: r.imported_by,
      practice: r.practice === 1,
    }),
  );

const entryRow = z
  .object({
    id: z.string(),
    at: z.date(),
    by_name: z.string(),
    kind: z.string(),
    version: z.number(),
    data: z.string(),
  })
  .transform(
    (r): JobEntry => ({
      ...readEntryBody(r.kind, r.version, JSON.parse(r.data)),
      id: r.id,
      at: r.at.toISOString(),
      by: r.by_name,
    }),
  );

export interface BoardRow extends JobRow {
  carTitle: string;
}

/** Jobs of a shop for the board: open ones first, newest first. */
export async function listJobs(sql: Sql, shopId: string): Promise<BoardRow[]> {
  const rows = await sql.rows(
    z.object({ car_title: z.string() }).loose(),
    `SELECT ${COLUMNS.split(", ")
      .map((c) => `j.${c}`)
      .join(", ")}, c.title AS car_title
     FROM job j JOIN profile c ON c.id = j.car_profile
     WHERE j.shop_id = ? ORDER BY j.closed_at IS NOT NULL, j.number DESC LIMIT 500`,
    [shopId],
  );
  return rows.map((r) => ({ ...jobRow.parse(r), carTitle: r.car_title }));
}

/** A job of the shop; null for an unknown one and for one of another shop alike. */
export async function jobById(sql: Sql, shopId: string, id: string): Promise<JobRow | null> {
  const rows = await sql.rows(
    jobRow,
    `SELECT ${COLUMNS}, EXISTS (SELECT 1 FROM stand_in WHERE job_id = job.id) AS practice FROM job WHERE shop_id = ? AND id = ?`,
    [shopId, id],
  );
  return rows[0] ?? null;
}

export interface NewJob {
  id: string;
  shopId: string;
  title: string;
  customer: string;
  carProfile: string;
  variantProfile: string | null;
  kitProfile: string | null;
  createdAt: Date;
  /** Of a job that comes with a log: how many entries, and when it was closed. */
  version?: number;
  closedAt?: Date | null;
  /** Who brought it from elsewhere. */
  importedBy?: string;
  /** SHA-256 of the file that it came in. */
  importSha256?: Uint8Array;
  line: BoardLine;
}

/** Creates a job with the next number of the shop. The same identifier twice is one job. Returns false when it was there. */
export async function createJob(db: Database, job: NewJob): Promise<boolean> {
  return withNumber(() =>
    db.transaction(async (sql) => {
      const existing = await sql.rows(z.object({ id: z.string() }), "SELECT id FROM job WHERE id = ?", [job.id]);
      if (existing.length > 0) return false;
      await insertJob(sql, job);
      return true;
    }),
  );
}

/** How often a number may be taken by somebody else. */
const MAX_CONFLICTS = 20;

/** Two jobs created at the same moment take the same number: the work is done again with the next one. */
export async function withNumber<T>(work: () => Promise<T>): Promise<T> {
  for (let attempt = 0; ; attempt++) {
    try {
      return await work();
    } catch (error) {
      if (!isDuplicate(error) || attempt > MAX_CONFLICTS) throw error;
      await new Promise((resolve) => setTimeout(resolve, Math.random() * 20 * (attempt + 1)));
    }
  }
}

/** The last job that came from the same file; null when there is none. */
export async function importedFrom(
  sql: Sql,
  shopId: string,
  sha256: Uint8Array,
): Promise<{ id: string; number: number } | null> {
  const rows = await sql.rows(
    z.object({ id: z.string(), number: z.number() }),
    "SELECT id, number FROM job WHERE shop_id = ? AND import_sha256 = ? ORDER BY number DESC LIMIT 1",
    [shopId, sha256],
  );
  return rows[0] ?? null;
}

/** Inserts a job under the next number of its shop. */
export async function insertJob(sql: Sql, job: NewJob): Promise<void> {
  const rows = await sql.rows(
    z.object({ n: z.number().nullable() }),
    "SELECT MAX(number) AS n FROM job WHERE shop_id = ?",
    [job.shopId],
  );
  await sql.run(
    `INSERT INTO job (id, shop_id, number, title, customer, car_profile, variant_profile, kit_profile, stage, next_action,
       kit_title, kit_slug, variant_slug, car_slug, version, closed_at, created_at, imported_by, import_sha256)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
    [
      job.id,
      job.shopId,
      (rows[0]?.n ?? 100) + 1,
      job.title,
      job.customer,
      job.carProfile,
      job.variantProfile,
      job.kitProfile,
      job.line.stage,
      job.line.nextAction.slice(0, 300),
      job.line.kit.title,
      job.line.kit.slug,
      job.line.variantSlug,
      job.line.carSlug,
      job.version ?? 0,
      job.closedAt ?? null,
      job.createdAt,
      job.importedBy ?? null,
      job.importSha256 ?? null,
    ],
  );
}

/** The entries of a job up to a version of its log, oldest first; all of them when no version is named. */
export async function entriesOf(sql: Sql, shopId: string, jobId: string, version?: number): Promise<JobEntry[]> {
  return sql.rows(
    entryRow,
    `SELECT id, at, by_name, kind, version, data FROM job_entry
     WHERE shop_id = ? AND job_id = ? AND position <= ? ORDER BY position`,
    [shopId, jobId, version ?? 2_147_483_647],
  );
}

/** The closed jobs of the shop on a car, the newest first. */
export async function closedJobIds(
  sql: Sql,
  shopId: string,
  carSlug: string,
  limit: number,
): Promise<{ id: string; version: number }[]> {
  return sql.rows(
    z.object({ id: z.string(), version: z.number() }),
    `SELECT id, version FROM job WHERE shop_id = ? AND car_slug = ? AND closed_at IS NOT NULL
     ORDER BY closed_at DESC LIMIT ${Math.floor(limit)}`,
    [shopId, carSlug],
  );
}

/** Entries of the closed jobs of the shop on a car, the newest jobs first, each job's entries oldest first. */
export async function closedJobsOn(sql: Sql, shopId: string, carSlug: string, limit: number): Promise<JobEntry[][]> {
  const jobs = await closedJobIds(sql, shopId, carSlug, limit);
  return Promise.all(jobs.map((j) => entriesOf(sql, shopId, j.id)));
}

/** How many of the latest closed jobs are read for what was repaired. */
const JOBS_OF_EXPERIENCE = 500;

/** What was repaired on the shop's latest closed jobs; what was undone does not count. */
export async function experienceOf(sql: Sql, shopId: string, kitSlug: string): Promise<Experience> {
  const rows = await sql.rows(
    z.object({ job_id: z.string(), kit_slug: z.string().nullable(), cause: z.string().nullable() }),
    `SELECT DISTINCT e.job_id, j.kit_slug, JSON_VALUE(e.data, '$.fault') AS cause
     FROM (SELECT id, kit_slug FROM job WHERE shop_id = ? AND closed_at IS NOT NULL
           ORDER BY closed_at DESC LIMIT ${JOBS_OF_EXPERIENCE}) j
     JOIN job_entry e ON e.job_id = j.id AND e.kind = 'prove.repair'
     WHERE NOT EXISTS (SELECT 1 FROM job_entry u
                       WHERE u.job_id = e.job_id AND u.kind = 'undo' AND JSON_VALUE(u.data, '$.entry') = e.id)`,
    [shopId],
  );
  const [count] = await sql.rows(
    z.object({ n: z.number() }),
    "SELECT COUNT(*) AS n FROM job WHERE shop_id = ? AND kit_slug = ? AND closed_at IS NOT NULL",
    [shopId, kitSlug],
  );
  const jobs = (of: typeof rows) => new Set(of.map((r) => r.job_id)).size;
  const withKit = (of: typeof rows) => of.filter((r) => r.kit_slug === kitSlug);
  const causes = [...new Set(rows.flatMap((r) => r.cause ?? []))];
  return {
    jobsWithKit: count?.n ?? 0,
    repairs: causes.map((cause) => {
      const of = rows.filter((r) => r.cause === cause);
      return { cause, jobs: jobs(of), withKit: jobs(withKit(of)) };
    }),
  };
}

/** How often each radio variant was met in the shop's jobs, by identifier. */
export async function variantCounts(sql: Sql, shopId: string): Promise<Map<string, number>> {
  const rows = await sql.rows(
    z.object({ variant_slug: z.string(), n: z.number() }),
    "SELECT variant_slug, COUNT(*) AS n FROM job WHERE shop_id = ? AND variant_slug <> '' GROUP BY variant_slug",
    [shopId],
  );
  return new Map(rows.map((r) => [r.variant_slug, r.n]));
}

/** The hidden fault of the stand-in car of a job; undefined when the job has no stand-in car. */
export async function standInOf(sql: Sql, shopId: string, jobId: string): Promise<string | null | undefined> {
  const rows = await sql.rows(
    z.object({ fault_id: z.string().nullable() }),
    "SELECT fault_id FROM stand_in WHERE shop_id = ? AND job_id = ?",
    [shopId, jobId],
  );
  return rows[0] ? rows[0].fault_id : undefined;
}

/** Gives a job a stand-in car. */
export async function setStandIn(sql: Sql, shopId: string, jobId: string, faultId: string | null): Promise<void> {
  await sql.run(
    "INSERT INTO stand_in (job_id, shop_id, fault_id) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE fault_id = VALUES(fault_id)",
    [jobId, shopId, faultId],
  );
}
