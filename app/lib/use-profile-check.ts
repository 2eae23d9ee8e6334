import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { ProfileWorker } from "~/app/workers/profile.worker";
import type { Gap } from "~/core/library/gap";
import type { CarProfile, VariantProfile } from "~/core/model/profile";
import type { ProfileCheck } from "~/profiles/try-document";

const WAIT_MS = 350;
/** The report of what is open takes longer: it waits until nobody types. */
const GAPS_WAIT_MS = 900;

/**
 * Checks a document in a worker a moment after the last change; an answer overtaken by a newer one is dropped.
 *
 * @param first how it stands as the page comes, where the server has tried it
 */
export function useProfileCheck(
  document: unknown,
  car: CarProfile | null,
  variant: VariantProfile | null,
  first: ProfileCheck | null = null,
) {
  const worker = useRef<Remote<ProfileWorker> | null>(null);
  const [check, setCheck] = useState(first);
  const [gaps, setGaps] = useState<Gap[] | null>(null);
  const [busy, setBusy] = useState(first === null);
  const begun = useRef(false);
  const known = useRef(first);
  // Callers may build the document anew at each render; only another text is another document.
  const text = JSON.stringify(document);
  useEffect(() => {
    const started = new Worker(new URL("../workers/profile.worker.ts", import.meta.url), { type: "module" });
    worker.current = wrap<ProfileWorker>(started);
    return () => started.terminate();
  }, []);
  useEffect(() => {
    let current = true;
    let later: ReturnType<typeof setTimeout> | undefined;
    // Nobody types yet when the page comes.
    const wait = begun.current ? WAIT_MS : 0;
    begun.current = true;
    const { current: tried } = known;
    known.current = null;
    if (!tried) setBusy(true);
    const timer = setTimeout(async () => {
      const answer = tried ?? (await worker.current?.tryDocument(JSON.parse(text), car, variant));
      if (!current || !answer) return;
      setCheck(answer);
      setBusy(false);
      later = setTimeout(async () => {
        const found = answer.problem ? [] : await worker.current?.gapsOf(JSON.parse(text), car, variant);
        if (current && found) setGaps(found);
      }, wait && GAPS_WAIT_MS);
    }, wait);
    return () => {
      current = false;
      clearTimeout(timer);
      clearTimeout(later);
    };
  }, [text, car, variant]);
  return { check, gaps, busy };
}
