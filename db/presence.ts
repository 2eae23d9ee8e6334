/** Who has a job open. A page renews its row while it is open; one that was not renewed is gone. */
import { z } from "zod";
import type { Sql } from "./database";

/** A page renews its row this often. */
export const RENEW_MS = 15_000;
/** After so long without being renewed a page counts as closed. */
const GONE_S = 40;

export interface Here {
  account: string;
  name: string;
  surface: string;
}

/** Keeps that a page is open, or still open. */
export async function renewPresence(
  sql: Sql,
  page: { id: string; jobId: string; accountId: string; surface: string },
): Promise<void> {
  await sql.run(
    `INSERT INTO presence (id, job_id, account_id, surface, seen_at) VALUES (?, ?, ?, ?, UTC_TIMESTAMP(3))
     ON DUPLICATE KEY UPDATE seen_at = VALUES(seen_at)`,
    [page.id, page.jobId, page.accountId, page.surface],
  );
}

/** A page was closed; what crashed pages left is swept with it. */
export async function endPresence(sql: Sql, id: string): Promise<void> {
  await sql.run("DELETE FROM presence WHERE id = ? OR seen_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY", [id]);
}

/** Versions of jobs, and who has each open: one question for all open pages of a server. */
export async function newsOf(
  sql: Sql,
  ids: readonly string[],
): Promise<{ id: string; version: number; here: Here[] }[]> {
  if (ids.length === 0) return [];
  const rows = await sql.rows(
    z.object({
      id: z.string(),
      version: z.number(),
      account: z.string().nullable(),
      name: z.string().nullable(),
      surface: z.string().nullable(),
    }),
    `SELECT j.id, j.version, p.account_id AS account, a.name, p.surface
     FROM job j
     LEFT JOIN presence p ON p.job_id = j.id AND p.seen_at > UTC_TIMESTAMP(3) - INTERVAL ${GONE_S} SECOND
     LEFT JOIN account a ON a.id = p.account_id
     WHERE j.id IN (${ids.map(() => "?").join(", ")})
     ORDER BY j.id, a.name, p.surface`,
    [...ids],
  );
  const news = new Map<string, { id: string; version: number; here: Here[] }>();
  for (const { id, version, account, name, surface } of rows) {
    const job = news.get(id) ?? { id, version, here: [] };
    news.set(id, job);
    const known = job.here.some((h) => h.account === account && h.surface === surface);
    if (account && name && surface && !known) job.here.push({ account, name, surface });
  }
  return [...news.values()];
}
