/** Plans the job, simulates every single fault once and ranks causes after each result, away from the page. */
import { expose } from "comlink";
import { diagnose, type FaultTable, simulateFaults } from "~/core/diagnose/bench";
import { type Documents, type PlanState, planJob, planKey } from "~/core/job/plan";

const SHOWN_CAUSES = 6;
const SHOWN_CHECKS = 4;

export interface ShownCause {
  id: string;
  title: string;
  cause: string;
  remedy: string;
  normal: boolean;
  probability: number;
  /** Parts that it concerns. */
  parts: string[];
}
export interface ShownCheck {
  id: string;
  title: string;
  how: string;
  minutes: number;
  gainBits: number;
  answers: { id: string; label: string }[];
  isTest: boolean;
}
export interface ShownDiagnosis {
  causes: ShownCause[];
  next: ShownCheck[];
  faults: number;
}

let table: FaultTable | null = null;
let tableKey = "";

const worker = {
  /** Plans the job as the server does and simulates all single faults; `progress` gets 0 to 1. */
  prepare(documents: Documents, state: PlanState, progress: (share: number) => void): void {
    const key = planKey(documents, state);
    if (key === tableKey && table) return;
    const plan = planJob(documents, state);
    table = simulateFaults(plan.fitted, plan.tests, plan.touched, (done, total) => {
      if (done % 5 === 0) progress(done / total);
      return true;
    });
    tableKey = key;
  },

  diagnose(results: [string, string][]): ShownDiagnosis | null {
    if (!table) return null;
    const { causes, next } = diagnose(table, new Map(results));
    const tests = new Set(table.tests.map((t) => t.id));
    return {
      faults: table.faults.length,
      causes: causes.slice(0, SHOWN_CAUSES).map(({ probability, fault }) => ({
        id: fault.id,
        title: fault.title,
        cause: fault.cause,
        remedy: fault.remedy,
        normal: fault.normal,
        probability,
        parts: fault.parts,
      })),
      next: next
        .slice(0, SHOWN_CHECKS)
        .map(({ check, gainBits }) => ({ ...check, gainBits, isTest: tests.has(check.id) })),
    };
  },
};

export type DiagnosisWorker = typeof worker;
expose(worker);
