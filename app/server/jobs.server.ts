import { data } from "react-router";
import { checkEntry } from "~/core/job/check-entry";
import type { EntryBody, JobEntry } from "~/core/job/entry";
import { jobCarState, nextAction } from "~/core/job/next";
import { type Documents, type JobPlan, planJob } from "~/core/job/plan";
import { foldJob, type JobState } from "~/core/job/state";
import { CoreError } from "~/core/model/errors";
import type { Account } from "~/db/accounts";
import { newId } from "~/db/ids";
import { type AppendResult, appendEntry, entriesOf, type JobRow, jobById, setBoardLine, standInOf } from "~/db/jobs";
import { jobDocuments } from "~/db/profiles";
import { database } from "./db.server";

export interface LoadedJob {
  row: JobRow;
  entries: JobEntry[];
  state: JobState;
  plan: JobPlan;
}

/** Plans follow from documents and choices alone; a few are kept, since solving the switch bank takes a while. */
const plans = new Map<string, JobPlan>();
const KEPT_PLANS = 60;

/** Loads a job of the person's shop with its log, state and plan. 404 for unknown jobs and those of other shops. */
export async function loadJob(account: Account, jobId: string | undefined): Promise<LoadedJob> {
  const db = database();
  const row = await jobRow(account, jobId);
  const entries = await entriesOf(db, account.shopId, row.id);
  const state = foldJob(entries);
  return { row, entries, state, plan: await planOf(account, row, state) };
}

/** The job row alone. */
export async function jobRow(account: Account, jobId: string | undefined): Promise<JobRow> {
  const row = /^[0-9a-f-]{36}$/i.test(jobId ?? "") ? await jobById(database(), account.shopId, jobId ?? "") : null;
  if (!row) throw data(`There is no such job in ${account.shopName}. Look for it on the board.`, { status: 404 });
  return row;
}

/** The plan of a job for other choices than those confirmed, for previews. */
export async function planOf(
  account: Account,
  row: JobRow,
  state: Pick<JobState, "choices" | "wishes">,
): Promise<JobPlan> {
  const ids = { car: row.carProfile, variant: row.variantProfile, kit: row.kitProfile };
  const key = JSON.stringify([account.shopId, ids, state.choices, state.wishes]);
  const kept = plans.get(key);
  if (kept) return kept;
  const documents = await documentsOf(account, row);
  try {
    const plan = planJob(documents, state);
    plans.set(key, plan);
    const oldest = plans.keys().next().value;
    if (plans.size > KEPT_PLANS && oldest) plans.delete(oldest);
    return plan;
  } catch (error) {
    if (error instanceof CoreError)
      throw data(`Car and kit cannot be planned together. ${error.message}`, { status: 422 });
    throw error;
  }
}

/** The pinned documents of a job. */
export async function documentsOf(account: Account, row: JobRow): Promise<Documents> {
  const documents = await jobDocuments(database(), account.shopId, {
    car: row.carProfile,
    variant: row.variantProfile,
    kit: row.kitProfile,
  });
  if (!documents) throw data("A profile that this job is pinned to is missing from the library.", { status: 409 });
  return documents;
}

/** What every page of a job shows beside its own matter. */
export function overview({ row, state, plan, entries }: LoadedJob) {
  const year = new Date().getFullYear();
  return {
    job: {
      id: row.id,
      number: row.number,
      title: row.title,
      customer: row.customer,
      version: row.version,
      closed: state.closed !== null,
    },
    documents: { car: plan.documents.car.title, variant: plan.documents.variant.title, kit: plan.documents.kit.title },
    next: nextAction(plan, state, year),
    car: jobCarState(plan, state),
    workMinutes: state.workMinutes,
    lastEntry: entries.at(-1) ?? null,
    seed: newId(),
  };
}

export type Appended =
  | { ok: true; repeated: boolean }
  | { ok: false; status: number; message: string; theirs?: JobEntry };

/** Checks an entry against the job, appends it and renews the line on the board. */
export async function append(
  account: Account,
  jobId: string | undefined,
  entry: { id: string; body: EntryBody; basedOn?: string | null },
): Promise<Appended> {
  const loaded = await loadJob(account, jobId);
  const problem = checkEntry(loaded.plan, loaded.state, loaded.entries, entry.body);
  if (problem && !loaded.entries.some((e) => e.id === entry.id)) return { ok: false, status: 422, message: problem };
  const result = await appendEntry(database(), account.shopId, loaded.row.id, {
    ...entry,
    at: new Date(),
    byName: account.name,
    accountId: account.id,
  });
  const refused = refusal(result);
  if (refused) return refused;
  await renewBoardLine(account, loaded.row);
  return { ok: true, repeated: result.kind === "repeated" };
}

function refusal(result: AppendResult): Appended | null {
  if (result.kind === "closed")
    return { ok: false, status: 409, message: "The job is closed. Reopen it in Hand over before changing anything." };
  if (result.kind === "unknown-job") return { ok: false, status: 404, message: "There is no such job." };
  if (result.kind === "stale")
    return {
      ok: false,
      status: 409,
      message: `${result.theirs.by} changed this while you were writing. Nothing was overwritten.`,
      theirs: result.theirs,
    };
  return null;
}

/** Computes stage and next action from the log and writes them on the board. */
export async function renewBoardLine(account: Account, row: JobRow): Promise<void> {
  const entries = await entriesOf(database(), account.shopId, row.id);
  const state = foldJob(entries);
  const next = nextAction(await planOf(account, row, state), state, new Date().getFullYear());
  await setBoardLine(database(), account.shopId, row.id, next.stage, next.action);
}

/** Hidden fault of the job's stand-in car; undefined when it has none. */
export function standIn(account: Account, row: JobRow): Promise<string | null | undefined> {
  return standInOf(database(), account.shopId, row.id);
}
