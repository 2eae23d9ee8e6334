import { data } from "react-router";
import { isBlank, noKit, noVariant } from "~/core/job/blank";
import { boardLine } from "~/core/job/board-line";
import { checkEntry } from "~/core/job/check-entry";
import type { DocumentPin, EntryBody, JobEntry } from "~/core/job/entry";
import { jobCarState, jobStripView, nextAction } from "~/core/job/next";
import { type Documents, type JobPlan, openedSteps, planJob } from "~/core/job/plan";
import { foldJob, type JobState } from "~/core/job/state";
import { composeFitted, composeStock } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import type { Account } from "~/db/accounts";
import { newId } from "~/db/ids";
import { type AppendResult, appendEntry, entriesOf, type JobRow, jobById, setBoardLine, standInOf } from "~/db/jobs";
import { profileById, profileByPin } from "~/db/profiles";
import type { Profile } from "~/profiles/schema";
import { database } from "./db.server";
import { WRITERS } from "./session.server";

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
async function planOf(
  account: Account,
  row: JobRow,
  state: Pinned & Pick<JobState, "choices" | "wishes" | "strip" | "feed" | "feedTests">,
): Promise<JobPlan> {
  const ids = [row.carProfile, state.variant ?? row.variantProfile, state.kit ?? row.kitProfile];
  const documents = await documentsOf(account, row, state);
  const steps = [...state.strip.wanted, ...openedSteps(documents.car.stripPlan, state.strip)];
  const feed = state.feed && [state.feed, state.feedTests.get(state.feed)];
  const key = JSON.stringify([account.shopId, ids, state.choices, state.wishes, steps, feed]);
  const kept = plans.get(key);
  if (kept) return kept;
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

/** What of a job's state names its documents. */
export type Pinned = Pick<JobState, "variant" | "kit">;

/** The pinned documents of a job; what is still to be found is a blank. */
export async function documentsOf(account: Account, row: JobRow, state: Pinned): Promise<Documents> {
  const car = await profileById(database(), account.shopId, row.carProfile);
  const variant = await pinned(account, "variant", state.variant, row.variantProfile);
  const kit = await pinned(account, "kit", state.kit, row.kitProfile);
  if (car?.document !== "car") throw missing();
  return { car, variant: variant ?? noVariant(car), kit: kit ?? noKit() };
}

async function pinned<K extends "variant" | "kit">(
  account: Account,
  kind: K,
  pin: DocumentPin | null,
  row: string | null,
) {
  if (!pin && !row) return null;
  const found = pin
    ? (await profileByPin(database(), account.shopId, kind, pin.slug, pin.version))?.profile
    : await profileById(database(), account.shopId, row ?? "");
  if (found?.document !== kind) throw missing();
  return found as Extract<Profile, { document: K }>;
}

function missing() {
  return data("A profile that this job is pinned to is missing from the library.", { status: 409 });
}

/** What every page of a job has from the layout around it. */
export type JobOverview = ReturnType<typeof overview>;

/** What every page of a job shows beside its own matter. */
export function overview(account: Account, { row, state, plan, entries }: LoadedJob) {
  const now = new Date().toISOString();
  const view = jobStripView(plan, state, now);
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
    kitChosen: !isBlank(plan.documents.kit),
    next: nextAction(plan, state, now, view),
    car: jobCarState(plan, state, now, view),
    workMinutes: state.workMinutes,
    lastEntry: entries.at(-1) ?? null,
    seed: newId(),
    readOnly: !WRITERS.includes(account.role),
  };
}

export type Appended =
  | { ok: true; repeated: boolean }
  | { ok: false; status: number; message: string; theirs?: JobEntry };

/** A device may keep what was ticked without connection for so long and still have it stand at its own time. */
const OLDEST_ENTRY_MS = 7 * 24 * 3_600_000;

/**
 * Checks an entry against the job, appends it and renews the line on the board.
 *
 * @param entry `ageMs` tells how long ago it happened on a device that was without connection
 */
export async function append(
  account: Account,
  jobId: string | undefined,
  entry: { id: string; body: EntryBody; basedOn?: string | null; ageMs?: number },
): Promise<Appended> {
  const loaded = await loadJob(account, jobId);
  const at = new Date(Date.now() - Math.min(Math.max(0, entry.ageMs ?? 0), OLDEST_ENTRY_MS));
  const problem =
    checkEntry(loaded.plan, loaded.state, loaded.entries, entry.body, at.toISOString()) ??
    (await checkPin(account, loaded, entry.body));
  if (problem && !loaded.entries.some((e) => e.id === entry.id)) return { ok: false, status: 422, message: problem };
  const result = await appendEntry(database(), account.shopId, loaded.row.id, {
    ...entry,
    at,
    byName: account.name,
    accountId: account.id,
  });
  const refused = refusal(result);
  if (refused) return refused;
  await renewBoardLine(account, loaded.row);
  return { ok: true, repeated: result.kind === "repeated" };
}

/** A variant or kit named by an entry must be in the library and go together with the car. */
async function checkPin(account: Account, { plan }: LoadedJob, body: EntryBody): Promise<string | null> {
  if (body.kind !== "intake.variant" && body.kind !== "fit.kit") return null;
  const kind = body.kind === "fit.kit" ? "kit" : "variant";
  const pin = "kit" in body.data ? body.data.kit : body.data.variant;
  const found = await profileByPin(database(), account.shopId, kind, pin.slug, pin.version);
  if (!found) return `The library has no ${kind} “${pin.slug}” in version ${pin.version}. Load the page again.`;
  const { car, variant } = plan.documents;
  try {
    if (found.profile.document === "variant") composeStock(car, found.profile);
    if (found.profile.document === "kit" && body.kind === "fit.kit")
      composeFitted(car, variant, found.profile, body.data.choices);
    return null;
  } catch (error) {
    if (error instanceof CoreError) return `${error.problem} ${error.remedy}`;
    throw error;
  }
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
  const plan = await planOf(account, row, state);
  await setBoardLine(database(), account.shopId, row.id, boardLine(plan, state, new Date().toISOString()));
}

/** Hidden fault of the job's stand-in car; undefined when it has none. */
export function standIn(account: Account, row: JobRow): Promise<string | null | undefined> {
  return standInOf(database(), account.shopId, row.id);
}
