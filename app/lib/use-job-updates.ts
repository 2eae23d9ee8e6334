import { useEffect, useRef } from "react";
import { useRevalidator } from "react-router";
import { watchVersion } from "./job-version";

/** Loads the page's data again when somebody else has added to the job. */
export function useJobUpdates(jobId: string, version: number): void {
  const { revalidate } = useRevalidator();
  const shown = useRef(version);
  shown.current = version;
  useEffect(
    () =>
      watchVersion(jobId, (now) => {
        if (now > shown.current) revalidate();
      }),
    [jobId, revalidate],
  );
}
