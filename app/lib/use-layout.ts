import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { LaidOut } from "~/app/workers/lay-out";
import type { SystemWorker } from "~/app/workers/system.worker";
import type { DrawingGraph } from "~/core/connect/drawing";

/** Lays a drawing out in a worker; an answer overtaken by a newer one is dropped. Null while the first is on its way. */
export function useLayout(graph: DrawingGraph): LaidOut | null {
  const worker = useRef<Remote<SystemWorker> | null>(null);
  const [laidOut, setLaidOut] = useState<LaidOut | null>(null);
  const text = JSON.stringify(graph);
  useEffect(() => {
    const started = new Worker(new URL("../workers/system.worker.ts", import.meta.url), { type: "module" });
    worker.current = wrap<SystemWorker>(started);
    return () => started.terminate();
  }, []);
  useEffect(() => {
    let current = true;
    worker.current?.layOut(JSON.parse(text)).then((answer) => current && setLaidOut(answer));
    return () => {
      current = false;
    };
  }, [text]);
  return laidOut;
}
