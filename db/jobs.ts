import { z } from "zod";
import type { BoardLine } from "../core/job/board-line";
import type { EntryBody, JobEntry } from "../core/job/entry";
import { entryBodySchema } from "../profiles/job";
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
}

const COLUMNS =
  "id, number, title, customer, car_profile, variant_profile, kit_profile, stage, next_action, kit_title, version, closed_at, created_at";
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
    }),
  );

const entryRow = z
  .object({ id: z.string(), at: z.date(), by_name: z.string(), kind: z.string(), data: z.string() })
  .transform((r): JobEntry => {
    const body = entryBodySchema.parse({ kind: r.kind, data: JSON.parse(r.data) });
    return { ...body, id: r.id, at: r.at.toISOString(), by: r.by_name };
  });

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
  const rows = await sql.rows(jobRow, `SELECT ${COLUMNS} FROM job WHERE shop_id = ? AND id = ?`, [shopId, id]);
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
  stage: string;
  nextAction: string;
  createdAt: Date;
}

/** Creates a job with the next number of the shop. The same identifier twice is one job. Returns false when it was there. */
export async function createJob(db: Database, job: NewJob): Promise<boolean> {
  for (let attempt = 0; ; attempt++) {
    try {
      return await db.transaction(async (sql) => {
        const there = await sql.rows(z.object({ id: z.string() }), "SELECT id FROM job WHERE id = ?", [job.id]);
        if (there.length > 0) return false;
        const rows = await sql.rows(
          z.object({ n: z.number().nullable() }),
          "SELECT MAX(number) AS n FROM job WHERE shop_id = ?",
          [job.shopId],
        );
        await sql.run(
          `INSERT INTO job (id, shop_id, number, title, customer, car_profile, variant_profile, kit_profile, stage, next_action, version, created_at)
           VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0, ?)`,
          [
            job.id,
            job.shopId,
            (rows[0]?.n ?? 100) + 1,
            job.title,
            job.customer,
            job.carProfile,
            job.variantProfile,
            job.kitProfile,
            job.stage,
            job.nextAction.slice(0, 300),
            job.createdAt,
          ],
        );
        return true;
      });
    } catch (error) {
      // Two jobs created at the same moment took the same number: take the next one.
      if (!isDuplicate(error) || attempt > 5) throw error;
    }
  }
}

/** All entries of a job, oldest first. */
export async function entriesOf(sql: Sql, shopId: string, jobId: string): Promise<JobEntry[]> {
  return sql.rows(
    entryRow,
    "SELECT id, at, by_name, kind, data FROM job_entry WHERE shop_id = ? AND job_id = ? ORDER BY position",
    [shopId, jobId],
  );
}

/** Entries of the closed jobs of the shop on a car, the newest jobs first, each job's entries oldest first. */
export async function closedJobsOn(sql: Sql, shopId: string, carSlug: string, limit: number): Promise<JobEntry[][]> {
  const jobs = await sql.rows(
    z.object({ id: z.string() }),
    `SELECT id FROM job WHERE shop_id = ? AND car_slug = ? AND closed_at IS NOT NULL
     ORDER BY closed_at DESC LIMIT ${Math.floor(limit)}`,
    [shopId, carSlug],
  );
  return Promise.all(jobs.map((j) => entriesOf(sql, shopId, j.id)));
}

export interface NewEntry {
  id: string;
  body: EntryBody;
  at: Date;
  byName: string;
  accountId: string | null;
  /** For edits of a whole sheet: the entry of this kind that the person saw, or null if there was none. */
  basedOn?: string | null;
}

export type AppendResult =
  | { kind: "appended"; version: number }
  /** The same identifier was stored before: a form sent twice. */
  | { kind: "repeated" }
  /** Somebody else changed the sheet meanwhile. */
  | { kind: "stale"; theirs: JobEntry }
  | { kind: "closed" }
  | { kind: "unknown-job" };

/** Entries that a closed job still takes. */
const AFTER_CLOSING: readonly EntryBody["kind"][] = ["handover.reopen"];

/** Appends an entry to the job log: once per identifier, never over somebody else's newer sheet, never to a closed job. */
export async function appendEntry(db: Database, shopId: string, jobId: string, entry: NewEntry): Promise<AppendResult> {
  return db.transaction(async (sql): Promise<AppendResult> => {
    const [job] = await sql.rows(
      z.object({ version: z.number(), closed_at: z.date().nullable() }),
      "SELECT version, closed_at FROM job WHERE shop_id = ? AND id = ? FOR UPDATE",
      [shopId, jobId],
    );
    if (!job) return { kind: "unknown-job" };
    const there = await sql.rows(z.object({ id: z.string() }), "SELECT id FROM job_entry WHERE id = ?", [entry.id]);
    if (there.length > 0) return { kind: "repeated" };
    if (job.closed_at && !AFTER_CLOSING.includes(entry.body.kind)) return { kind: "closed" };
    if (entry.basedOn !== undefined) {
      const [newest] = await sql.rows(
        entryRow,
        "SELECT id, at, by_name, kind, data FROM job_entry WHERE job_id = ? AND kind = ? ORDER BY position DESC LIMIT 1",
        [jobId, entry.body.kind],
      );
      if (newest && newest.id !== entry.basedOn) return { kind: "stale", theirs: newest };
    }
    const version = job.version + 1;
    await sql.run(
      "INSERT INTO job_entry (id, shop_id, job_id, position, at, by_name, account_id, kind, data) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?)",
      [
        entry.id,
        shopId,
        jobId,
        version,
        entry.at,
        entry.byName,
        entry.accountId,
        entry.body.kind,
        JSON.stringify(entry.body.data),
      ],
    );
    const closedAt =
      entry.body.kind === "handover.close" ? entry.at : entry.body.kind === "handover.reopen" ? null : job.closed_at;
    await sql.run("UPDATE job SET version = ?, closed_at = ? WHERE id = ?", [version, closedAt, jobId]);
    return { kind: "appended", version };
  });
}

/** Writes what the board shows of a job. It follows from the entries, so the last writer is right. */
export async function setBoardLine(sql: Sql, shopId: string, jobId: string, line: BoardLine): Promise<void> {
  await sql.run(
    "UPDATE job SET stage = ?, next_action = ?, kit_title = ?, kit_slug = ?, variant_slug = ?, car_slug = ? WHERE shop_id = ? AND id = ?",
    [
      line.stage,
      line.nextAction.slice(0, 300),
      line.kit.title,
      line.kit.slug,
      line.variantSlug,
      line.carSlug,
      shopId,
      jobId,
    ],
  );
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
