import { createContext, data, type MiddlewareFunction, type RouterContextProvider } from "react-router";
import type { OutputProof } from "~/core/bus/translation/proof";
import { wishesOf } from "~/core/fit/wishes";
import type { Asked, Stopped } from "~/core/job/decide";
import { Job, MissingDocument, type NamedPin, type OpenedWith, type PlanStore, pinsOf } from "~/core/job/job";
import type { Command, JobEntry } from "~/core/log/entry";
import { EntryVersionError } from "~/core/log/upgrade";
import { CoreError } from "~/core/model/errors";
import { overviewOf } from "~/core/views/overview";
import type { Account } from "~/db/accounts";
import { appendPress, type JobAt } from "~/db/append";
import { keep, recall, recallOr } from "~/db/cache";
import { storedFile } from "~/db/files";
import { newId } from "~/db/ids";
import { entriesOf, type JobRow, jobById, standInOf } from "~/db/jobs";
import { profileById, profileByPin } from "~/db/profiles";
import type { Profile } from "~/profiles/schema";
import { database } from "./db.server";
import { libraryKits } from "./fit.server";
import { person, WRITERS } from "./session.server";
import { Shelf } from "./shelf.server";

/** A job as a request finds it. */
export class LoadedJob {
  constructor(
    readonly row: JobRow,
    readonly job: Job,
  ) {}

  get state() {
    return this.job.state;
  }

  get entries() {
    return this.job.entries;
  }

  /** @throws 409, 422 as answers of a route when it cannot be planned */
  get plan() {
    try {
      return this.job.plan;
    } catch (error) {
      if (error instanceof CoreError) throw coreProblem(error);
      throw error;
    }
  }
}

/** Waits and charges are told in minutes: what is shown of a moment is computed once in so long. */
const MOMENT_MS = 10_000;

/** The job of a request: read once, when it is first asked for, and shared by page, layout and action. */
export class JobOfRequest {
  private loaded: Promise<LoadedJob> | null = null;
  private found: Promise<JobRow> | null = null;
  /** The moment that the whole request shows, ISO 8601, UTC. */
  readonly now = new Date(Math.floor(Date.now() / MOMENT_MS) * MOMENT_MS).toISOString();

  constructor(
    readonly account: Account,
    private readonly id: string | undefined,
  ) {}

  /** The job row alone. @throws 404 for unknown jobs and those of other shops alike */
  row(): Promise<JobRow> {
    this.found ??= jobRow(this.account, this.id);
    return this.found;
  }

  /** @throws 404, 409 when a document is missing or an entry is newer than this program, 422 when it cannot be planned */
  load(): Promise<LoadedJob> {
    this.loaded ??= this.row().then(async (row) => new LoadedJob(row, await asRoute(() => jobAt(this.account, row))));
    return this.loaded;
  }

  /** Reads the job again: somebody else has written, or this request has. */
  again(): Promise<LoadedJob> {
    this.found = null;
    this.loaded = null;
    return this.load();
  }
}

const jobContext = createContext<JobOfRequest | null>(null);

/** Every route of a job: one job object a request. Behind `signedIn`. */
export const jobOfRequest: MiddlewareFunction<Response> = async ({ params, context }, next) => {
  context.set(jobContext, new JobOfRequest(person(context), params.job));
  return next();
};

/** The job whose routes these are. */
export function jobOf(context: Readonly<RouterContextProvider>): JobOfRequest {
  const job = context.get(jobContext);
  if (!job) throw data("This page belongs to no job.", { status: 404 });
  return job;
}

async function jobRow(account: Account, id: string | undefined): Promise<JobRow> {
  const row = /^[0-9a-f-]{36}$/i.test(id ?? "") ? await jobById(database(), account.shopId, id ?? "") : null;
  if (!row) throw data(`There is no such job in ${account.shopName}. Look for it on the board.`, { status: 404 });
  return row;
}

/** About the memory of a folded and planned job beside its plan. */
const JOB_KB = 200;
const PLAN_KB = 800;

/** The job at the version of its row: from memory where this server has had it, else from its log. */
async function jobAt(account: Account, row: JobRow): Promise<Job> {
  const key = jobKey(account, row.id, row.version);
  const known = recall<Job>("job", key);
  if (known) return known;
  const entries = await entriesOf(database(), account.shopId, row.id, row.version);
  const shelf = new Shelf(account.currency);
  await fetchDocuments(account, shelf, pinsOf(entries));
  return keep("job", key, new Job(await openedWith(account, row), entries, shelf, planStore(account)), JOB_KB);
}

function jobKey({ shopId }: Account, id: string, version: number): string {
  return `${shopId} ${id} ${version}`;
}

function planStore({ shopId }: Account): PlanStore {
  return { plan: (key, make) => recallOr("plan", `${shopId} ${key}`, PLAN_KB, make) };
}

async function openedWith(account: Account, row: JobRow): Promise<OpenedWith> {
  const car = await profileById(database(), account.shopId, row.carProfile);
  const variant = row.variantProfile ? await profileById(database(), account.shopId, row.variantProfile) : null;
  const kit = row.kitProfile ? await profileById(database(), account.shopId, row.kitProfile) : null;
  if (car?.document !== "car") throw missing();
  return { car, variant: ofKind("variant", variant), kit: ofKind("kit", kit) };
}

function ofKind<K extends "variant" | "kit">(kind: K, profile: Profile | null) {
  if (profile !== null && profile.document !== kind) throw missing();
  return profile as Extract<Profile, { document: K }> | null;
}

function missing() {
  return data("A profile that this job is pinned to is missing from the library.", { status: 409 });
}

async function fetchDocuments(account: Account, shelf: Shelf, pins: readonly NamedPin[]): Promise<void> {
  for (const { kind, pin } of pins) {
    if (shelf.document(kind, pin)) continue;
    const found = await profileByPin(database(), account.shopId, kind, pin.slug, pin.version);
    if (found && found.profile.document !== "car") shelf.putDocument(found.profile);
  }
}

/** Fetches what the commands of a press name beside the job's own log, so that the decision needs no database. */
async function fetchFor(account: Account, jobId: string, job: Job, commands: readonly Command[]): Promise<void> {
  const shelf = job.outside as Shelf;
  await fetchDocuments(account, shelf, pinsOf(commands));
  for (const file of commands.flatMap(filesIn)) {
    const stored = await storedFile(database(), account.shopId, jobId, file);
    if (stored) shelf.putFile(stored);
  }
  if (commands.some((c) => c.kind === "intake.wishes" || c.kind === "fit.signed")) await knowWishes(account, job);
}

/** Lets a job know how its translation did on a log. */
export function putProof(job: Job, key: string, proof: readonly OutputProof[] | "same content"): void {
  (job.outside as Shelf).putProof(key, proof);
}

/** Lets a job name the functions that its wishes may hold. */
export async function knowWishes(account: Account, job: Job): Promise<void> {
  (job.outside as Shelf).putWishes(wishesOf(await libraryKits(account), []));
}

function filesIn({ data }: Command): string[] {
  const named = [
    "photo" in data && typeof data.photo === "string" ? data.photo : null,
    "file" in data && typeof data.file === "string" ? data.file : null,
  ];
  return named.flatMap((f) => f ?? []);
}

/** Errors of the core as answers of a route: what cannot be planned is 422, what is missing or too new is 409. */
async function asRoute<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (error instanceof CoreError) throw coreProblem(error);
    throw error;
  }
}

function coreProblem(error: CoreError) {
  const status = error instanceof MissingDocument || error instanceof EntryVersionError ? 409 : 422;
  return data(status === 409 ? error.message : `Car and kit cannot be planned together. ${error.message}`, { status });
}

/** What every page of a job has from the layout around it. */
export type JobOverview = ReturnType<typeof overview>;

export function overview(account: Account, { row, job, plan }: LoadedJob, now: string) {
  // Asked for first, so that what cannot be planned is an answer of the route.
  void plan;
  const { name, role } = account;
  return overviewOf(row, job, { name, role, readOnly: !WRITERS.includes(role) }, now, newId());
}

export type Appended =
  | { ok: true; repeated: boolean }
  | { ok: false; status: number; message: string; theirs?: JobEntry; stop?: Stopped };

/** A device may keep what was ticked without connection for so long and still have it stand at its own time. */
const OLDEST_ENTRY_MS = 7 * 24 * 3_600_000;

/** One command of a press as it comes over the wire. */
export interface Pressed {
  id: string;
  command: Command;
  /** How long ago it happened, on a device that was without connection. */
  ageMs?: number;
}

/** Decides a press on the job of the request and writes what follows, all of it or nothing. */
export async function press(source: JobOfRequest, pressed: readonly Pressed[]): Promise<Appended> {
  const { account } = source;
  const now = Date.now();
  const asked: Asked[] = pressed.map((p) => ({
    id: p.id,
    command: p.command,
    at: new Date(now - Math.min(Math.max(0, p.ageMs ?? 0), OLDEST_ENTRY_MS)).toISOString(),
  }));
  const read = async (again: boolean): Promise<JobAt> => {
    const { row, job } = await (again ? source.again() : source.load());
    const commands = asked.map((a) => a.command);
    await fetchFor(account, row.id, job, commands);
    return { id: row.id, shopId: account.shopId, version: row.version, job };
  };
  const result = await asRoute(() =>
    appendPress(database(), asked, { accountId: account.id, name: account.name, role: account.role }, read),
  );
  if (result.kind === "repeated") return { ok: true, repeated: true };
  if (result.kind === "written") {
    const { id } = await source.row();
    keep("job", jobKey(account, id, result.version), result.after, JOB_KB);
    await source.again();
    return { ok: true, repeated: false };
  }
  const { problem, remedy, theirs } = result.refusal;
  return {
    ok: false,
    status: result.because === "closed" || result.because === "conflict" ? 409 : 422,
    message: `${problem} ${remedy}`,
    ...(result.stop ? { stop: result.stop } : {}),
    ...(theirs ? { theirs } : {}),
  };
}

/** Hidden fault of the job's stand-in car; undefined when it has none. */
export function standIn(account: Account, row: JobRow): Promise<string | null | undefined> {
  return standInOf(database(), account.shopId, row.id);
}
