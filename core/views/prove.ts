/** What Prove shows of a job. */
import type { Job } from "../job/job";
import { CODES_ACTION } from "../job/next";
import { isFailure, openNow, planKey, planState } from "../job/plan";
import { closedAt, openTests, repeatedTests } from "../job/rounds";
import { compareCodes } from "../prove/codes";
import { roundOf } from "../prove/rounds";
import { testHead } from "../prove/tests";

/** @param now ISO 8601, UTC */
export function proveView(job: Job, now: string) {
  const { state, plan } = job;
  const view = job.strip(now);
  const closed = closedAt(state, view);
  const again = new Set(repeatedTests(plan).map((t) => t.id));
  const open = openTests(plan, state, view);
  const failing = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value)).length;
  return {
    /** The test to try next, and in which round. */
    next: failing === 0 && open[0] ? { id: open[0].test.id, round: open[0].round } : null,
    tests: plan.tests.map((t) => ({
      ...testHead(t),
      minutes: t.minutes,
      round: roundOf(t),
      /** Tried once more when everything is closed; null where that is not needed. */
      again: again.has(t.id)
        ? { due: closed !== null, done: closed !== null && (state.results.get(t.id)?.at ?? "") >= closed }
        : null,
      noted: state.results.get(t.id) ?? null,
      /** It did not work, or was not there, when the car came in. */
      failedBefore: ["fail", "absent"].includes(state.baseline.get(t.id)?.value ?? ""),
      situation: t.situation,
    })),
    plan: { key: planKey(plan.documents, state), state: planState(state) },
    checks: [...state.checks].map(([id, n]) => ({ id, answer: n.value })),
    repairs: state.repairs,
    codes: {
      before: state.car.faultCodes,
      after: state.codesAfter,
      compared: state.codesAfter ? compareCodes(state.car.faultCodes, state.codesAfter.value) : null,
      /** All tests are answered and the car is closed again. */
      due: job.next(now).action === CODES_ACTION,
    },
    openLeads: Object.keys(openNow(plan, state).openLinks ?? {}).length,
    failing,
  };
}
