import { useEffect, useRef, useState } from "react";
import { useRevalidator } from "react-router";
import { type Other, watchVersion } from "./job-version";

/** Loads the page's data again when somebody else has added to the job. Returns who else has it open. */
export function useJobUpdates(jobId: string, version: number, surface: string): readonly Other[] {
  const { revalidate } = useRevalidator();
  const [others, setOthers] = useState<readonly Other[]>([]);
  const shown = useRef(version);
  shown.current = version;
  useEffect(
    () =>
      watchVersion(
        jobId,
        (now) => {
          if (now > shown.current) revalidate();
        },
        { surface, others: setOthers },
      ),
    [jobId, revalidate, surface],
  );
  return others;
}
