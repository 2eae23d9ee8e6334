import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { LaidOut } from "~/app/workers/lay-out";
import type { SystemWorker } from "~/app/workers/system.worker";
import type { DrawingGraph } from "~/core/connect/drawing";

/** Lays a drawing out in a worker; an answer overtaken by a newer one is dropped. Null while there is none. */
export function useLayout(graph: DrawingGraph | null): LaidOut | null {
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
    const asked: DrawingGraph | null = JSON.parse(text);
    if (asked) worker.current?.layOut(asked).then((answer) => current && setLaidOut(answer));
    else setLaidOut(null);
    return () => {
      current = false;
    };
  }, [text]);
  return laidOut;
}
