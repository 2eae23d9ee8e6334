import { del, get, set, update } from "idb-keyval";
import { useCallback, useEffect, useRef, useState } from "react";
import { v7 as uuid } from "uuid";
import type { Command, EntryKind } from "~/core/log/entry";
import {
  type Answer,
  adopt,
  ageMs,
  type Flushed,
  flush,
  forget,
  isOpen,
  push,
  type Stop,
  settle,
  type Waiting,
} from "~/core/offline/outbox";
import { learnClock, nowIso, nowMs } from "./device-clock";

const RETRY_MS = 4000;
/** One opening of the page; its monotonic clock says nothing about another one's. */
const SESSION = typeof performance === "undefined" ? "" : `${performance.timeOrigin}`;
const listKey = (job: string) => `outbox/${job}`;
/** Something was put into an outbox from outside of its page's hook. */
const CHANGED = "iteron-outbox";
const photoKey = (id: string) => `photo/${id}`;
/** Taps on their way into the device's database: that takes a moment, and a page that is left waits for nobody. */
const tapsKey = (job: string) => `iteron-taps/${job}`;

function tapsOf(job: string): Waiting[] {
  try {
    return JSON.parse(localStorage.getItem(tapsKey(job)) ?? "[]") as Waiting[];
  } catch {
    // The device keeps nothing for pages.
    return [];
  }
}

/** Edits the list of such taps at once; where the device has no room for it, the database still gets its chance. */
function changeTaps(job: string, edit: (taps: Waiting[]) => Waiting[]): void {
  const taps = edit(tapsOf(job));
  try {
    if (taps.length > 0) localStorage.setItem(tapsKey(job), JSON.stringify(taps));
    else localStorage.removeItem(tapsKey(job));
  } catch {}
}

export interface Outbox {
  /** Not yet in the log as the device got it, oldest first: to be sent, sent, or refused. */
  waiting: Waiting[];
  /** How many of those to be sent are in the device's database, and so survive a closed page. */
  stored: number;
  connection: "online" | Stop;
  /** The device has no room left: what waits is kept only while the page is open. */
  full: boolean;
  add(body: Command, photo?: Blob): void;
  /** Sends a refused entry again, changed or not. */
  again(id: string, body: Command): void;
  drop(id: string): void;
  /** Takes over what another person has done on this device and not sent. */
  takeOver(): void;
  /** Lets go of what the server's log shows. */
  seen(known: ReadonlySet<string>): void;
}

/** Version of a kind of entry in this program; it may have to be loaded first. */
export type VersionOf = (kind: EntryKind) => number | Promise<number>;

/** What waits for a job on this device, oldest first. */
export async function waitingOf(job: string): Promise<Waiting[]> {
  return (await get<Waiting[]>(listKey(job))) ?? [];
}

/** Puts entries into the outbox of a job; whichever page has it open shows and sends them. */
export async function putInOutbox(job: string, entries: readonly Omit<Waiting, "tick" | "session">[]): Promise<void> {
  const added = entries.map((e) => ({ ...e, tick: performance.now(), session: SESSION }));
  await update<Waiting[]>(listKey(job), (stored) => added.reduce<Waiting[]>((l, e) => push(l, e), stored ?? []));
  window.dispatchEvent(new CustomEvent(CHANGED, { detail: job }));
}

/**
 * Keeps entries of a job on the device and sends them in order. What the page knows is in memory at once; the copy in
 * the browser's database survives a reload.
 */
export function useOutbox(job: string, person: string, versionOf: VersionOf): Outbox {
  const [waiting, setWaiting] = useState<Waiting[]>([]);
  const [connection, setConnection] = useState<Outbox["connection"]>("online");
  const [full, setFull] = useState(false);
  const [stored, setStored] = useState(0);
  const list = useRef<Waiting[]>([]);
  const running = useRef(false);

  const change = useCallback(
    (edit: (l: readonly Waiting[]) => Waiting[], tap?: string) => {
      list.current = edit(list.current);
      setWaiting(list.current);
      const open = list.current.filter(isOpen).length;
      return update<Waiting[]>(listKey(job), (before) => edit(before ?? [])).then(
        () => {
          setFull(false);
          setStored(open);
          if (tap) changeTaps(job, (taps) => taps.filter((t) => t.id !== tap));
        },
        () => setFull(true),
      );
    },
    [job],
  );

  const run = useCallback(async () => {
    if (running.current || !list.current.some(isOpen)) return;
    running.current = true;
    try {
      const flushed = await oneTabAtATime(job, () => flush(list.current, person, (w) => send(job, w)));
      for (const w of list.current) if (w.photo && flushed.taken.includes(w.id)) del(photoKey(w.photo)).catch(() => {});
      await change((l) => settle(l, flushed));
      changeTaps(job, (taps) => taps.filter((t) => !flushed.taken.includes(t.id)));
      setConnection(flushed.stopped ?? "online");
    } finally {
      running.current = false;
    }
    const mine = list.current.find(isOpen)?.by === person;
    if (mine && navigator.onLine) setTimeout(run, RETRY_MS);
  }, [job, person, change]);

  useEffect(() => {
    // What an earlier opening of the page left behind goes before what was added since.
    const read = () =>
      get<Waiting[]>(listKey(job))
        .then((stored) => {
          const added = list.current.filter((w) => !stored?.some((x) => x.id === w.id));
          list.current = [...(stored ?? []), ...added];
          setWaiting(list.current);
          setStored((stored ?? []).filter(isOpen).length);
        })
        .catch(() => setFull(true))
        .finally(run);
    void read();
    // Taps that an earlier opening was left with before they were in the database.
    for (const tap of tapsOf(job))
      Promise.resolve(versionOf(tap.body.kind)).then((version) =>
        change((l) => push(l, { ...tap, version }), tap.id).then(run),
      );
    const put = (e: Event) => {
      if ((e as CustomEvent<string>).detail === job) void read();
    };
    const back = () => run();
    const gone = () => setConnection("offline");
    window.addEventListener(CHANGED, put);
    window.addEventListener("online", back);
    window.addEventListener("offline", gone);
    return () => {
      window.removeEventListener(CHANGED, put);
      window.removeEventListener("online", back);
      window.removeEventListener("offline", gone);
    };
  }, [job, run, change, versionOf]);

  const seen = useCallback(
    (known: ReadonlySet<string>) => {
      if (list.current.some((w) => known.has(w.id))) change((l) => forget(l, known));
    },
    [change],
  );
  return {
    waiting,
    seen,
    stored,
    connection,
    full,
    add(body, photo) {
      const photoId = photo && uuid();
      const kept = photo && photoId ? set(photoKey(photoId), photo).catch(() => setFull(true)) : Promise.resolve();
      const withPhoto =
        photoId && body.kind === "strip.note" ? { ...body, data: { ...body.data, photo: photoId } } : body;
      const entry: Waiting = {
        id: uuid(),
        body: withPhoto,
        ...moment(),
        by: person,
        ...(photoId ? { photo: photoId } : {}),
      };
      changeTaps(job, (taps) => [...taps, entry]);
      Promise.resolve(versionOf(body.kind)).then((version) => {
        change((l) => push(l, { ...entry, version }), entry.id);
        kept.then(run);
      });
    },
    again(id, body) {
      Promise.resolve(versionOf(body.kind)).then((version) =>
        // Somebody stands at the car and says that it is so: it is said now.
        change((l) => l.map((w) => (w.id === id ? withoutRefusal({ ...w, body, version, ...moment() }) : w))).then(run),
      );
    },
    takeOver() {
      change((l) => adopt(l, person)).then(run);
    },
    drop(id) {
      changeTaps(job, (taps) => taps.filter((t) => t.id !== id));
      change((l) => l.filter((w) => w.id !== id));
    },
  };
}

function moment(): Pick<Waiting, "at" | "tick" | "session"> {
  return { at: nowIso(), tick: performance.now(), session: SESSION };
}

function withoutRefusal({ refused: _, ...entry }: Waiting): Waiting {
  return entry;
}

/** Two tabs on one job do not send at the same moment. Doubles would do no harm, but the order is kept so. */
function oneTabAtATime(job: string, work: () => Promise<Flushed>): Promise<Flushed> {
  return navigator.locks ? navigator.locks.request(`iteron/${job}`, work) : work();
}

async function send(job: string, waiting: Waiting): Promise<Answer> {
  try {
    if (waiting.photo) {
      const photo = await get<Blob>(photoKey(waiting.photo));
      if (photo) {
        const answer = await fetch(`/jobs/${job}/photos?photo=${waiting.photo}`, { method: "POST", body: photo });
        if (answer.status === 413 || answer.status === 422)
          return { kind: "refused", message: ((await answer.json()) as { message: string }).message };
        if (!answer.ok) return { kind: "later", why: answer.status === 401 ? "signedOut" : "server" };
      }
    }
    const sentMs = Date.now();
    const clock = { wallMs: nowMs(), tickMs: performance.now(), session: SESSION };
    const body = new URLSearchParams({
      entry: waiting.id,
      body: JSON.stringify(waiting.body),
      version: String(waiting.version ?? 1),
      age: String(Math.round(ageMs(waiting, clock))),
    });
    const answer = await fetch(`/jobs/${job}/log`, { method: "POST", body, redirect: "manual" });
    learnClock(answer, sentMs);
    if (answer.ok) return { kind: "taken" };
    if (answer.status === 401) return { kind: "later", why: "signedOut" };
    if (answer.status >= 500 || answer.type === "opaqueredirect") return { kind: "later", why: "server" };
    const refused = (await answer.json().catch(() => null)) as { message?: string } | null;
    return { kind: "refused", message: refused?.message ?? `The server refused it (${answer.status}).` };
  } catch {
    return { kind: "later", why: "offline" };
  }
}
