import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { ProfileCheck, ProfileWorker } from "~/app/workers/profile.worker";
import type { CarProfile, VariantProfile } from "~/core/model/profile";

const WAIT_MS = 350;

/** Checks a document in a worker a moment after the last change; an answer overtaken by a newer one is dropped. */
export function useProfileCheck(document: unknown, car: CarProfile | null, variant: VariantProfile | null) {
  const worker = useRef<Remote<ProfileWorker> | null>(null);
  const [check, setCheck] = useState<ProfileCheck | null>(null);
  const [busy, setBusy] = useState(true);
  // Callers may build the document anew at each render; only another text is another document.
  const text = JSON.stringify(document);
  useEffect(() => {
    const started = new Worker(new URL("../workers/profile.worker.ts", import.meta.url), { type: "module" });
    worker.current = wrap<ProfileWorker>(started);
    return () => started.terminate();
  }, []);
  useEffect(() => {
    let current = true;
    setBusy(true);
    const timer = setTimeout(async () => {
      const answer = await worker.current?.check(JSON.parse(text), car, variant);
      if (!current || !answer) return;
      setCheck(answer);
      setBusy(false);
    }, WAIT_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [text, car, variant]);
  return { check, busy };
}
