import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import type { EntryKind } from "~/core/log/entry";
import { engine, keepJob, pagesOf } from "./kept-job";
import { type Outbox, useOutbox } from "./outbox";

/** A page that is only passed through is not worth keeping. */
const SETTLED_MS = 2500;

const versionOf = async (kind: EntryKind) => (await engine()).versionOf(kind);

/**
 * Keeps the job on this device while its pages are open, and sends what was done without connection. The page is
 * computed again whenever what waits has changed.
 */
export function useKeptJob(job: string, version: number, person: string): { outbox: Outbox; isKept: boolean } {
  const { revalidate } = useRevalidator();
  const [isKept, setKept] = useState(false);
  pagesOf(person);
  const outbox = useOutbox(job, person, versionOf);
  const { waiting, seen } = outbox;
  const state = waiting.map((w) => `${w.id} ${w.sent ?? ""} ${w.refused ?? ""}`).join();
  const shown = useRef("");
  useEffect(() => {
    if (shown.current === state) return;
    shown.current = state;
    void revalidate();
  }, [state, revalidate]);
  const sent = waiting.some((w) => w.sent);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new version is kept, too
  useEffect(() => {
    // What was sent is let go of once the copy of the server's log holds it.
    const keep = async () => {
      const kept = await keepJob(job);
      if (!kept) return;
      setKept(true);
      seen(new Set(kept.entries.map((e) => e.id)));
    };
    const timer = setTimeout(keep, sent ? 0 : SETTLED_MS);
    return () => clearTimeout(timer);
  }, [job, version, sent, seen]);
  return { outbox, isKept };
}
