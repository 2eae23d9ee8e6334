import { proxy, type Remote, wrap } from "comlink";
import { useEffect, useRef, useState } from "react";
import type { DiagnosisWorker, ShownDiagnosis } from "~/app/workers/diagnosis.worker";
import type { Experience } from "~/core/diagnose/learned";
import type { JobEvidence } from "~/core/job/evidence";
import type { Documents, PlanState } from "~/core/job/plan";

export type DiagnosisState =
  | { kind: "working"; share: number }
  | { kind: "ready"; diagnosis: ShownDiagnosis }
  | { kind: "failed"; message: string }
  | { kind: "idle" };

/** Judges in a worker whenever something becomes known. Does nothing while `active` is false. */
export function useDiagnosis(
  jobId: string,
  plan: { key: string; state: PlanState },
  evidence: JobEvidence,
  active: boolean,
): DiagnosisState {
  const [state, setState] = useState<DiagnosisState>({ kind: "idle" });
  const remote = useRef<Remote<DiagnosisWorker> | null>(null);
  const planned = useRef(plan.state);
  planned.current = plan.state;
  const known = JSON.stringify(evidence);

  useEffect(() => {
    if (!active) return;
    const worker = new Worker(new URL("../workers/diagnosis.worker.ts", import.meta.url), { type: "module" });
    remote.current = wrap<DiagnosisWorker>(worker);
    return () => {
      remote.current = null;
      worker.terminate();
    };
  }, [active]);

  // biome-ignore lint/correctness/useExhaustiveDependencies: the key stands for what the plan follows from
  useEffect(() => {
    const current = remote.current;
    if (!active || !current) return;
    let stale = false;
    const set = (next: DiagnosisState) => {
      if (!stale) setState(next);
    };
    const work = async () => {
      const answer = await fetch(`/jobs/${jobId}/documents.json`);
      if (!answer.ok) throw new Error("The documents of the job could not be loaded. Check the connection.");
      const { documents, experience } = (await answer.json()) as { documents: Documents; experience: Experience };
      await current.prepare(
        documents,
        planned.current,
        proxy((share: number) => set({ kind: "working", share })),
      );
      const diagnosis = await current.judge(JSON.parse(known), experience);
      if (diagnosis) set({ kind: "ready", diagnosis });
    };
    work().catch((error: Error) => set({ kind: "failed", message: error.message }));
    return () => {
      stale = true;
    };
  }, [active, jobId, plan.key, known]);

  return active ? state : { kind: "idle" };
}
