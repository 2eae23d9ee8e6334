import { useEffect, useState } from "react";
import type { Command, EntryKind } from "~/core/log/entry";
import type { HandsView } from "~/core/views/hands";
import { watchVersion } from "./job-version";
import { keepPage } from "./kept-pages";
import { fetchAhead } from "./later";
import { useOutbox } from "./outbox";

const CLOCK_MS = 5000;

/** Two taps within so long are one, whatever is shown by then; taking back at once what was just tapped is another. */
const ONE_TAP_MS = 1000;
const lastTapMs = { do: Number.NEGATIVE_INFINITY, undo: Number.NEGATIVE_INFINITY };

/** Every other page of a job has it; this one is to be small. */
export const keptJobs = () => import("./kept-job");

const versionOf = async (kind: EntryKind) => (await (await keptJobs()).engine()).versionOf(kind);

/**
 * Step-by-step mode on a device: the copy of the job with everything done here on top of it, computed here at every
 * tap, with or without connection.
 */
export function useHands(loaded: HandsView) {
  const job = loaded.job.id;
  const [view, setView] = useState(loaded);
  const [wanted, look] = useState<string | null>(null);
  const outbox = useOutbox(job, loaded.person, versionOf);
  const { waiting, seen } = outbox;
  /** How often the copy of the server's log has come, and the clock has struck. */
  const [copies, setCopies] = useState(0);
  const [strokes, setStrokes] = useState(0);
  const shows = JSON.stringify([waiting.map((w) => [w.id, w.refused]), wanted, copies]);
  const [shown, setShown] = useState<string | null>(null);

  useEffect(() => {
    const keep = async () => {
      const { fetchJob, pagesOf } = await keptJobs();
      pagesOf(loaded.person);
      const kept = await fetchJob(job);
      setCopies((n) => n + 1);
      if (kept) seen(new Set(kept.entries.map((e) => e.id)));
    };
    // First the copy, so that a tap counts at once; then the pages for a place without connection.
    void keep()
      .then(fetchAhead)
      .catch(() => undefined)
      .then(() => keepPage())
      .then(async () => (await keptJobs()).keepJob(job));
    const clock = setInterval(() => setStrokes((n) => n + 1), CLOCK_MS);
    const unwatch = watchVersion(job, () => void (navigator.onLine && keep()));
    return () => {
      clearInterval(clock);
      unwatch();
    };
  }, [job, loaded.person, seen]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: `shows` says what is to be shown, the clock when again
  useEffect(() => {
    let over = false;
    keptJobs()
      .then(({ handsHere }) => handsHere(job, waiting, wanted))
      .then((next) => {
        if (over || !next) return;
        setView(next);
        setShown(shows);
      })
      .catch(() => undefined);
    return () => {
      over = true;
    };
  }, [job, shows, strokes]);

  const isShown = shown === shows;
  const { add } = outbox;
  /** Writes what a tap says, the state of the car first; nothing while what is shown is not how it stands. */
  const tap = (press: readonly Command[], what: keyof typeof lastTapMs = "do") => {
    if (!isShown || view.readOnly) return;
    // A second tap is the same tap, also where the next thing has come under the finger.
    if (performance.now() - lastTapMs[what] < ONE_TAP_MS) return;
    lastTapMs[what] = performance.now();
    for (const body of press) add(body);
    look(null);
  };
  const { last, readOnly } = view;
  const undo =
    last && !readOnly
      ? { title: last.title, act: () => tap([{ kind: "undo", data: { entry: last.entry } }], "undo") }
      : null;
  return { view, outbox, look, peeking: wanted !== null, isShown, tap, undo };
}

export type Hands = ReturnType<typeof useHands>;
