/** What Prove shows of a job. */
import type { Job } from "../job/job";
import { isFailure, openNow, planKey, planState } from "../job/plan";

export function proveView({ state, plan }: Job) {
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
      situation: t.situation,
    })),
    plan: { key: planKey(plan.documents, state), state: planState(state) },
    checks: [...state.checks].map(([id, n]) => ({ id, answer: n.value })),
    repairs: state.repairs,
    openLeads: Object.keys(openNow(plan, state).openLinks ?? {}).length,
    failing: plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value)).length,
  };
}
