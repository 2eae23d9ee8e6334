/** Planning the demonstration job and simulating all of its single faults, in a worker thread as in the browser. */
import { isMainThread, parentPort, Worker } from "node:worker_threads";
import { simulateFaults } from "../../core/diagnose/bench";
import { planJob } from "../../core/job/plan";
import { demoDocuments } from "../../profiles/library";
import { medianMs, report } from "./report";

if (isMainThread) {
  // A worker thread does not inherit the TypeScript loader: it registers it, then loads this file again.
  const boot =
    "import('tsx/esm/api').then(({ register }) => { register(); return import(require('node:worker_threads').workerData); })";
  const worker = new Worker(boot, { eval: true, workerData: import.meta.url });
  worker.once("message", ({ plan, faults, count }: { plan: number; faults: number; count: number }) => {
    report({ case: "plan the demonstration job, switch bank of 256 positions solved", value: plan, unit: "ms" });
    report({
      case: `simulate all ${count} single faults of the demonstration system in a worker`,
      value: faults,
      unit: "ms",
      note: "aim: well under 1000",
    });
  });
} else {
  const documents = demoDocuments();
  const plan = planJob(documents, { choices: null, wishes: null });
  const planMs = medianMs(5, () => void planJob(documents, { choices: null, wishes: null }));
  let count = 0;
  const faults = medianMs(5, () => {
    count = simulateFaults(plan.fitted, plan.tests, plan.touched).faults.length;
  });
  parentPort?.postMessage({ plan: planMs, faults, count });
}
