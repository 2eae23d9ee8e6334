import { z } from "zod";
import type { BoardLine } from "../core/job/board-line";
import { type Asked, type Decision, decide, type Refused } from "../core/job/decide";
import type { Role } from "../core/job/guards/guard";
import type { Job } from "../core/job/job";
import type { JobEntry } from "../core/log/entry";
import { kindNamed } from "../core/log/fold";
import { refuse } from "../core/log/kind";
import { versionOf } from "../core/log/upgrade";
import { type Database, isDuplicate, type Sql } from "./database";

export interface Author {
  /** Null for what the program wrote itself: demonstration, import. */
  accountId: string | null;
  name: string;
  role: Role;
}

/** A job as it was read: its identifier, the version its log had, and the job itself. */
export interface JobAt {
  id: string;
  shopId: string;
  version: number;
  job: Job;
}

export type PressResult =
  | { kind: "written"; version: number; entries: JobEntry[]; after: Job }
  /** All of it stood in the log already. */
  | { kind: "repeated" }
  | Refused;

/** How often a press is decided anew because somebody else wrote first. */
const ATTEMPTS = 20;

/**
 * Decides a press on a job and writes what follows: all entries, version, closing time and board line in one
 * transaction, and only while the log has the version that was decided on. When somebody else was quicker the job is
 * read again and decided again.
 *
 * @param read the job as it stands now; the first time it may come from memory
 */
export async function appendPress(
  db: Database,
  press: readonly Asked[],
  author: Author,
  read: (again: boolean) => Promise<JobAt>,
): Promise<PressResult> {
  let first: JobAt | null = null;
  for (let attempt = 1; ; attempt++) {
    const at = await read(attempt > 1);
    first ??= at;
    const decision = decide(at.job, press, author, new Date().toISOString());
    if (decision.kind === "refused") return attempt > 1 ? withTheirs(decision, first, at) : decision;
    const { entries, repeated } = decision;
    if (repeated.length > 0) {
      const foreign = await foreignEntry(db, at, repeated, author);
      if (foreign) return foreign;
    }
    if (entries.length === 0) return { kind: "repeated" };
    const written = await write(db, at, decision, author);
    if (written === "written")
      return { kind: "written", version: at.version + entries.length, entries, after: decision.after };
    if (written === "taken") return identifierTaken();
    if (attempt === ATTEMPTS) return busy();
    await new Promise((resolve) => setTimeout(resolve, Math.random() * 15 * attempt));
  }
}

/** Written once already, it finds another version, and the job that is read again has the entries. */
const REPEATABLE = { repeatable: true };

/** `moved`: the log has another version by now. `taken`: an identifier is used by another entry. */
async function write(
  db: Database,
  at: JobAt,
  { entries, after }: Decision & { kind: "written" },
  author: Author,
): Promise<"written" | "moved" | "taken"> {
  const line = after.boardLine(new Date().toISOString());
  try {
    return await db.transaction(async (sql) => {
      const version = at.version + entries.length;
      const changed = await updateJob(sql, at, version, after.state.closed?.at ?? null, line);
      if (changed === 0) return "moved";
      await insertEntries(sql, at.shopId, at.id, at.version, entries, author.accountId);
      return "written";
    }, REPEATABLE);
  } catch (error) {
    if (isDuplicate(error)) return "taken";
    throw error;
  }
}

async function updateJob(sql: Sql, at: JobAt, version: number, closedAt: string | null, line: BoardLine) {
  return sql.run(
    `UPDATE job SET version = ?, closed_at = ?, stage = ?, next_action = ?, kit_title = ?, kit_slug = ?, variant_slug = ?,
       car_slug = ? WHERE id = ? AND shop_id = ? AND version = ?`,
    [
      version,
      closedAt && new Date(closedAt),
      line.stage,
      line.nextAction.slice(0, 300),
      line.kit.title,
      line.kit.slug,
      line.variantSlug,
      line.carSlug,
      at.id,
      at.shopId,
      at.version,
    ],
  );
}

/** Writes entries at the positions after `version`, in one statement. */
export async function insertEntries(
  sql: Sql,
  shopId: string,
  jobId: string,
  version: number,
  entries: readonly JobEntry[],
  accountId: string | null,
): Promise<void> {
  const PORTION = 500;
  for (let from = 0; from < entries.length; from += PORTION) {
    const some = entries.slice(from, from + PORTION);
    await sql.run(
      `INSERT INTO job_entry (id, shop_id, job_id, position, at, by_name, account_id, kind, version, data)
       VALUES ${some.map(() => "(?, ?, ?, ?, ?, ?, ?, ?, ?, ?)").join(", ")}`,
      some.flatMap((e, i) => [
        e.id,
        shopId,
        jobId,
        version + from + i + 1,
        new Date(e.at),
        e.by,
        accountId,
        e.kind,
        versionOf(e.kind),
        JSON.stringify(e.data),
      ]),
    );
  }
}

/** A repeated identifier must be this person's own; two people of one name are not one person. */
async function foreignEntry(sql: Sql, at: JobAt, ids: readonly string[], author: Author): Promise<Refused | null> {
  const rows = await sql.rows(
    z.object({ account_id: z.string().nullable() }),
    `SELECT account_id FROM job_entry WHERE shop_id = ? AND job_id = ? AND id IN (${ids.map(() => "?").join(", ")})`,
    [at.shopId, at.id, ...ids],
  );
  return rows.length === ids.length && rows.every((r) => r.account_id === author.accountId) ? null : identifierTaken();
}

function identifierTaken(): Refused {
  return {
    kind: "refused",
    because: "conflict",
    refusal: refuse(
      "entry",
      "The identifier of this entry is used by another one.",
      "Load the page again and press anew; nothing was written.",
    ),
  };
}

function busy(): Refused {
  return {
    kind: "refused",
    because: "conflict",
    refusal: refuse("job", "Others are writing on this job at the same moment.", "Press again."),
  };
}

/** Adds what somebody else wrote meanwhile to a refusal that follows from it. */
function withTheirs(decision: Refused, first: JobAt, now: JobAt): Refused {
  const meanwhile = now.job.entries.slice(first.job.entries.length);
  const theirs = decision.refusal.theirs ?? meanwhile.at(-1);
  if (!theirs || decision.refusal.theirs) return decision;
  const words = kindNamed(theirs.kind).words(theirs.data, now.job.facts(theirs.at));
  return {
    ...decision,
    refusal: {
      ...decision.refusal,
      problem: `${theirs.by} was quicker: ${words}. ${decision.refusal.problem}`,
      theirs,
    },
  };
}
