import { set } from "idb-keyval";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { Stopped } from "~/core/job/decide";
import type { Command, JobEntry } from "~/core/log/entry";
import { versionOf } from "~/core/log/upgrade";
import { type HandsSnapshot, readSnapshot } from "~/core/offline/snapshot";
import { journalOf } from "~/core/strip/learn";
import { stripView } from "~/core/strip/view";
import { watchVersion } from "./job-version";
import { keepPage } from "./kept-pages";
import { fetchAhead } from "./later";
import { type Outbox, useOutbox } from "./outbox";

const CLOCK_MS = 5000;

/** Every other page of a job has it; this one is to be small. */
export const keptJobs = () => import("./kept-job");

/**
 * The strip view of a job on a device: the newest snapshot of the server with everything ticked here on top of it,
 * with or without connection.
 */
export function useHands(loaded: HandsSnapshot) {
  const [snapshot, setSnapshot] = useState(loaded);
  const [now, setNow] = useState(loaded.now);
  const job = loaded.job.id;
  const outbox = useOutbox(job, loaded.person, versionOf);
  const { seen } = outbox;
  const version = useRef(loaded.version);
  /** Version of the job that the guards are asked on. */
  const [kept, setKept] = useState(-1);

  const take = useCallback(
    (next: HandsSnapshot) => {
      if (next.version < version.current) return;
      version.current = next.version;
      setSnapshot(next);
      seen(new Set(next.entries.map((e) => e.id)));
    },
    [seen],
  );

  useEffect(() => {
    void fetchAhead()
      .catch(() => undefined)
      .then(() => keepPage());
    // Loaded without connection the page is as old as its copy; a newer snapshot may lie on the device.
    keptJobs()
      .then(({ newestHands, pagesOf }) => {
        pagesOf(loaded.person);
        return newestHands(job);
      })
      .then((kept) => take(kept && kept.version > loaded.version ? kept : loaded))
      .catch(() => {});
    const keep = () =>
      keptJobs()
        .then(({ keepJob }) => keepJob(job))
        .then((k) => k && setKept(k.row.version))
        .catch(() => {});
    void keep();
    const clock = setInterval(() => setNow(new Date().toISOString()), CLOCK_MS);
    const unwatch = watchVersion(job, async (now) => {
      if (now === version.current || !navigator.onLine) return;
      try {
        const next = await fetch(`/jobs/${job}/snapshot.json`);
        if (!next.ok) return;
        const fresh = readSnapshot(await next.json());
        // The server runs a newer program than this page: what is ticked here goes on, the rest after a reload.
        if (!fresh) return;
        // First kept, then the outbox lets go of what it shows.
        await set(`snapshot/${job}`, fresh).catch(() => {});
        take(fresh);
        await keep();
      } catch {
        // Without connection there is nothing newer.
      }
    });
    return () => {
      clearInterval(clock);
      unwatch();
    };
  }, [job, take, loaded]);

  const journal = useMemo(() => {
    const known = new Set(snapshot.entries.map((e) => e.id));
    const own = outbox.waiting.filter((w) => w.refused === undefined && !known.has(w.id));
    return journalOf([...snapshot.entries, ...own.map(asEntry)]);
  }, [snapshot, outbox.waiting]);
  const view = useMemo(() => stripView(snapshot.input, journal, now), [snapshot.input, journal, now]);
  return { snapshot, journal, view, now, outbox, kept };
}

/** What speaks against a press as this device knows the job; undefined until it is worked out. */
export function useStop(job: string, command: Command, since: unknown): Stopped | null | undefined {
  const [stop, setStop] = useState<{ of: string; stop: Stopped | null } | null>(null);
  const text = JSON.stringify(command);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `since` says when the job is another one
  useEffect(() => {
    let over = false;
    keptJobs()
      .then(({ stopHere }) => stopHere(job, JSON.parse(text) as Command))
      .catch(() => null)
      .then((found) => !over && setStop({ of: text, stop: found }));
    return () => {
      over = true;
    };
  }, [job, text, since]);
  return stop?.of === text ? stop.stop : undefined;
}

/** What waits as it will stand in the log; entries of Strip store what was asked for. */
function asEntry(waiting: Outbox["waiting"][number]): JobEntry {
  return { ...waiting.body, id: waiting.id, at: waiting.at, by: waiting.by } as JobEntry;
}
