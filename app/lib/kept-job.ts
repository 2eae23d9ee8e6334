/**
 * A job goes on without connection: its pages ask the server, and where there is none the copy on this device with what
 * was done here on top. What is pressed meanwhile waits in the outbox.
 */
import { get, set } from "idb-keyval";
import { isRouteErrorResponse } from "react-router";
import type { Stopped } from "~/core/job/decide";
import type { Job, PlanStore } from "~/core/job/job";
import type { Command } from "~/core/log/entry";
import { documentsOf, type KeptJob, type KeptNews, mergeKept, readKeptJob } from "~/core/offline/kept-job";
import { isOpen, type Waiting } from "~/core/offline/outbox";
import type { HandsView } from "~/core/views/hands";
import { learnClock, nowIso } from "./device-clock";
import { keepPages } from "./kept-pages";
import { putInOutbox, waitingOf } from "./outbox";

const keptKey = (job: string) => `snapshot/whole/${job}`;

/** Everything that a page computes on the device; loaded apart, and beforehand. */
export const engine = () => import("./kept-views");

/** A job as this device has it. */
interface Here {
  kept: KeptJob;
  job: Job;
  /** ISO 8601, UTC. */
  now: string;
  views: Awaited<ReturnType<typeof engine>>;
}

/**
 * What a page shows: from the server, or without connection from this device.
 *
 * @throws what the server threw, where it did answer or this device has not kept the job
 */
export async function orKept<T>(jobId: string, server: () => Promise<T>, onDevice: (here: Here) => T): Promise<T> {
  // What waits here is not in the server's log yet: showing that would take back what somebody sees as done.
  const own = await ownWaiting(jobId);
  if (!own.some((w) => w.refused === undefined)) {
    try {
      return await server();
    } catch (error) {
      if (!isUnreachable(error)) throw error;
      const here = await jobHere(jobId);
      if (!here) throw error;
      return onDevice(here);
    }
  }
  const here = await jobHere(jobId);
  return here ? onDevice(here) : server();
}

/** What browsers say when there was no answer at all; any other TypeError is a mistake of ours and is shown as one. */
const NO_ANSWER = /failed to fetch|networkerror|load failed|network connection/i;

/** No answer at all, or one that says to come back: the database is away. */
function isUnreachable(error: unknown): boolean {
  if (isRouteErrorResponse(error)) return error.status === 503;
  return error instanceof TypeError && (!navigator.onLine || NO_ANSWER.test(error.message));
}

/** The session has ended: what was pressed waits until somebody signs in again. */
const isSignedOut = (error: unknown): boolean => isRouteErrorResponse(error) && error.status === 401;

let person: string | null = null;

/** Says whose pages these are; what somebody else has kept on this device is not shown to them. */
export function pagesOf(name: string): void {
  person = name;
}

/** What this person has done here and is not in the log; what somebody else has left holds nobody up. */
async function ownWaiting(jobId: string): Promise<Waiting[]> {
  const waiting = await waitingOf(jobId).catch(() => []);
  return waiting.filter((w) => w.by === person);
}

let last: { text: string; here: Here } | null = null;
/** Plans of the documents that were looked at last: another tick most often changes none. */
let plans: { documents: string; store: PlanStore } | null = null;

/** Copies of this opening of the page; the device may have no room for them. */
const inMemory = new Map<string, KeptJob>();

async function keptOf(jobId: string): Promise<KeptJob | null> {
  const stored = readKeptJob(await get(keptKey(jobId)).catch(() => null));
  const own = inMemory.get(jobId) ?? null;
  return stored && own ? (stored.row.version >= own.row.version ? stored : own) : (stored ?? own);
}

async function jobHere(jobId: string, shown?: readonly Waiting[]): Promise<Here | null> {
  const [kept, waiting, views] = await Promise.all([keptOf(jobId), shown ?? waitingOf(jobId), engine()]);
  if (kept?.person !== person) return null;
  const now = nowIso();
  // Layout and page ask for the same job: it is planned once.
  const text = JSON.stringify([jobId, kept.row.version, waiting.map((w) => [w.id, w.refused])]);
  if (last?.text === text) return { ...last.here, now };
  const documents = documentsOf(kept);
  if (plans?.documents !== documents) plans = { documents, store: views.ownStore() };
  const here = { kept, job: views.jobOnDevice(kept, waiting, plans.store), now, views };
  last = { text, here };
  return here;
}

/**
 * Step-by-step mode as this device knows the job, with what waits as the page has it: a device without room keeps that
 * in memory only. Null when this device has no copy.
 *
 * @param wanted key of the thing to look at
 */
export async function handsHere(
  jobId: string,
  waiting: readonly Waiting[],
  wanted: string | null,
): Promise<HandsView | null> {
  const here = await jobHere(jobId, waiting);
  return here && handsOf(here, wanted);
}

/** The same of a job as it lies here. */
export function handsOf({ kept, job, now, views }: Here, wanted: string | null = null): HandsView {
  return views.handsView(job, kept.row, { name: kept.person, readOnly: kept.readOnly }, now, wanted);
}

/** Brings the copy of a job on this device up to date; quietly does nothing without connection. */
export async function fetchJob(jobId: string): Promise<KeptJob | null> {
  try {
    const before = await keptOf(jobId);
    const query = before ? `?documents=${encodeURIComponent(documentsOf(before))}` : "";
    const sentMs = Date.now();
    const answer = await fetch(`/jobs/${jobId}/kept.json${query}`);
    learnClock(answer, sentMs);
    if (!answer.ok) return null;
    const kept = mergeKept(before, (await answer.json()) as KeptNews);
    if (!kept) return null;
    inMemory.set(jobId, kept);
    await set(keptKey(jobId), kept).catch(() => undefined);
    return kept;
  } catch {
    return null;
  }
}

/** The same, with the pages of the job and their scripts, so that each opens without connection. */
export async function keepJob(jobId: string): Promise<KeptJob | null> {
  const kept = await fetchJob(jobId);
  try {
    await engine();
    if (kept) await keepPages(jobId);
    return kept;
  } catch {
    return null;
  }
}

/** What the server answers to a press, and this device in its place. */
type Pressed = { ok: true } | { ok: false; status: number; message: string; stop?: Stopped };

/** A press: to the server, or without connection, and behind what waits already, to this device. */
export async function pressAnywhere<T>(jobId: string, form: FormData, server: () => Promise<T>): Promise<T | Pressed> {
  const own = await ownWaiting(jobId);
  if (!own.some(isOpen)) {
    try {
      return await server();
    } catch (error) {
      if (!isUnreachable(error) && !isSignedOut(error)) throw error;
    }
  }
  return (await pressHere(jobId, form)) ?? { ok: false, status: 503, message: NOT_KEPT };
}

const NO_ROOM = "This device has no room left. Nothing was logged; free some space, then press again.";
const NOT_KEPT = "There is no connection, and this device has not kept the job. Nothing was logged; try again.";

/**
 * A press that the server did not hear: decided here as it will be decided there, then kept until it can be sent. Null
 * when this device has not kept the job.
 */
async function pressHere(jobId: string, form: FormData): Promise<Pressed | null> {
  const here = await jobHere(jobId);
  if (!here) return null;
  const { kept, job, now, views } = here;
  const ids = form.getAll("entry").map(String);
  const commands = form.getAll("body").map((b) => JSON.parse(String(b)) as Command);
  const asked = commands.map((command, i) => ({ id: ids[i] ?? "", command, at: now }));
  const decision = views.decide(job, asked, { name: kept.person, role: kept.role });
  if (decision.kind === "refused")
    return {
      ok: false,
      status: 422,
      message: `${decision.refusal.problem} ${decision.refusal.remedy}`,
      ...(decision.stop ? { stop: decision.stop } : {}),
    };
  const entries = asked.map(({ id, command, at }) => ({
    id,
    body: command,
    version: views.versionOf(command.kind),
    at,
    by: kept.person,
  }));
  return putInOutbox(jobId, entries).then(
    () => ({ ok: true }),
    () => ({ ok: false, status: 507, message: NO_ROOM }),
  );
}
