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
import { type HandsSnapshot, readSnapshot } from "~/core/offline/snapshot";
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

async function jobHere(jobId: string): Promise<Here | null> {
  const [stored, waiting, views] = await Promise.all([get(keptKey(jobId)), waitingOf(jobId), engine()]);
  const kept = readKeptJob(stored);
  if (kept?.person !== person) return null;
  const now = new Date().toISOString();
  // Layout and page ask for the same job: it is planned once.
  const text = JSON.stringify([jobId, kept.row.version, waiting.map((w) => [w.id, w.refused])]);
  if (last?.text === text) return { ...last.here, now };
  const documents = documentsOf(kept);
  if (plans?.documents !== documents) plans = { documents, store: views.ownStore() };
  const here = { kept, job: views.jobOnDevice(kept, waiting, plans.store), now, views };
  last = { text, here };
  return here;
}

/** What the step-by-step mode computes from, by the copy of this device. */
export function handsHere({ kept, job, now, views }: Here): HandsSnapshot {
  const person = { name: kept.person, readOnly: kept.readOnly };
  return views.handsSnapshot(kept.row, job, kept.entries, kept.measured, person, now);
}

/** The newest that this device has for the step-by-step mode; null when it has nothing. */
export async function newestHands(jobId: string): Promise<HandsSnapshot | null> {
  const [stored, here] = await Promise.all([get(`snapshot/${jobId}`), jobHere(jobId).catch(() => null)]);
  const [own, whole] = [readSnapshot(stored), here && handsHere(here)];
  return own && whole ? (whole.version > own.version ? whole : own) : (own ?? whole);
}

/** What speaks against a press, as this device knows the job; null when nothing does, or it does not know the job. */
export async function stopHere(jobId: string, command: Command): Promise<Stopped | null> {
  const here = await jobHere(jobId);
  if (!here) return null;
  const { job, kept, now, views } = here;
  const decision = views.decide(job, [{ id: "here", command, at: now }], { name: kept.person, role: kept.role });
  return decision.kind === "refused" ? (decision.stop ?? null) : null;
}

/** Brings the copy of a job on this device up to date; quietly does nothing without connection. */
export async function keepJob(jobId: string): Promise<KeptJob | null> {
  try {
    const before = readKeptJob(await get(keptKey(jobId)));
    const query = before ? `?documents=${encodeURIComponent(documentsOf(before))}` : "";
    const answer = await fetch(`/jobs/${jobId}/kept.json${query}`);
    if (!answer.ok) return null;
    const kept = mergeKept(before, (await answer.json()) as KeptNews);
    if (!kept) return null;
    await set(keptKey(jobId), kept);
    await engine();
    await keepPages(jobId);
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
