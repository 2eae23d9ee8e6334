import { useEffect, useState } from "react";
import { nowMs } from "./device-clock";

/** Whole seconds since a moment; null before the page runs, and while there is no moment. */
export function useSeconds(since: string | null): number | null {
  const [now, setNow] = useState<number | null>(null);
  useEffect(() => {
    setNow(nowMs());
    const timer = setInterval(() => setNow(nowMs()), 500);
    return () => clearInterval(timer);
  }, []);
  return now === null || since === null ? null : Math.max(0, (now - Date.parse(since)) / 1000);
}
