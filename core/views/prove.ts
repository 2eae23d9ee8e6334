/** What Prove shows of a job. */
import type { Job } from "../job/job";
import { CODES_ACTION } from "../job/next";
import { isFailure, openNow, planKey, planState } from "../job/plan";
import { compareCodes } from "../prove/codes";

/** @param now ISO 8601, UTC */
export function proveView(job: Job, now: string) {
  const { state, plan } = job;
  return {
    tests: plan.tests.map((t) => ({
      id: t.id,
      name: t.fn.name,
      label: t.label,
      say: t.fn.say,
      caution: t.fn.caution,
      law: t.fn.who === "law",
      minutes: t.minutes,
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
    failing: plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value)).length,
  };
}
