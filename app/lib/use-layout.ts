import { type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { LaidOut } from "~/app/lib/lay-out";
import type { SystemWorker } from "~/app/workers/system.worker";
import type { DrawingGraph } from "~/core/connect/drawing";

/**
 * Lays a drawing out in a worker; an answer overtaken by a newer one is dropped.
 *
 * @param first the drawing as it came with the page, laid out by the server
 * @returns the last drawing, null while there is none; pending while it is the one of a graph before
 */
export function useLayout(
  graph: DrawingGraph | null,
  first: LaidOut | null = null,
): { drawing: LaidOut | null; pending: boolean } {
  const text = JSON.stringify(graph);
  const [laidOut, setLaidOut] = useState({ of: first ? text : "null", drawing: first });
  const worker = useRef<{ thread: Worker; remote: Remote<SystemWorker> } | null>(null);
  useEffect(() => {
    return () => {
      worker.current?.thread.terminate();
      worker.current = null;
    };
  }, []);
  useEffect(() => {
    if (text === laidOut.of) return;
    let current = true;
    const asked: DrawingGraph | null = JSON.parse(text);
    const show = (drawing: LaidOut | null) => current && setLaidOut({ of: text, drawing });
    if (asked) {
      worker.current ??= begin();
      worker.current.remote.layOut(asked).then(show);
    } else show(null);
    return () => {
      current = false;
    };
  }, [text, laidOut.of]);
  return { drawing: laidOut.drawing, pending: text !== laidOut.of };
}

function begin() {
  const thread = new Worker(new URL("../workers/system.worker.ts", import.meta.url), { type: "module" });
  return { thread, remote: wrap<SystemWorker>(thread) };
}
