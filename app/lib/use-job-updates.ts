import { useEffect } from "react";
import { useRevalidator } from "react-router";

const EVERY_MS = 1000;

/** Looks whether somebody else added to the job and loads the page's data again when so. */
export function useJobUpdates(jobId: string, version: number): void {
  const { revalidate } = useRevalidator();
  useEffect(() => {
    const timer = setInterval(async () => {
      if (document.hidden) return;
      const answer = await fetch(`/jobs/${jobId}/version`).catch(() => null);
      if (answer?.ok && Number(await answer.text()) !== version) revalidate();
    }, EVERY_MS);
    return () => clearInterval(timer);
  }, [jobId, version, revalidate]);
}
