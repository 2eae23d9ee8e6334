import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { ProfileCheck, ProfileWorker } from "~/app/workers/profile.worker";
import type { Gap } from "~/core/library/gap";
import type { CarProfile, VariantProfile } from "~/core/model/profile";

const WAIT_MS = 350;
/** The report of what is open takes longer: it waits until nobody types. */
const GAPS_WAIT_MS = 900;

/** Checks a document in a worker a moment after the last change; an answer overtaken by a newer one is dropped. */
export function useProfileCheck(document: unknown, car: CarProfile | null, variant: VariantProfile | null) {
  const worker = useRef<Remote<ProfileWorker> | null>(null);
  const [check, setCheck] = useState<ProfileCheck | null>(null);
  const [gaps, setGaps] = useState<Gap[] | null>(null);
  const [busy, setBusy] = useState(true);
  const begun = useRef(false);
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
    setBusy(true);
    // Nobody types yet when the page comes.
    const wait = begun.current ? WAIT_MS : 0;
    begun.current = true;
    const timer = setTimeout(async () => {
      const answer = await worker.current?.check(JSON.parse(text), car, variant);
      if (!current || !answer) return;
      setCheck(answer);
      setBusy(false);
      later = setTimeout(async () => {
        const found = answer.problem ? [] : await worker.current?.gaps(JSON.parse(text), car, variant);
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
