/** Whether a phone is still to be paired, and whether it can be with what is connected now. */
import { isFailure } from "../log/kinds/prove/result";
import type { Job } from "./job";
import { modelNow } from "./model-now";
import { phonesOf } from "./phones";

/** True while the first pairing is still to come: no phone was paired, let be, or proven by a test. */
export function pairingOpen({ plan, state }: Pick<Job, "plan" | "state">): boolean {
  const phones = phonesOf(plan, state);
  if (!phones || phones.some((p) => p.step === null)) return false;
  if (phones.length === 0 && state.pairing.length > 0) return false;
  return !plan.tests.some((t) => {
    const result = state.results.get(t.id)?.value;
    return t.situation.phone !== "none" && result !== undefined && !isFailure(result) && result !== "impossible";
  });
}

/**
 * Why the phone cannot work by wireless with what is connected and set now, asked of the model: of its picture, else of
 * the first function by wireless that the kit brings. Null where it can, or nothing by wireless is given.
 */
export function wirelessNow(job: Job): string | null {
  const brought = new Set(job.plan.documents.kit.functions.map((f) => f.id));
  const { model, system } = modelNow(job);
  const tries = system.functions.flatMap((fn) => {
    const by = brought.has(fn.id) ? fn.situations.find((s) => s.set.phone === "wireless") : undefined;
    return by ? [{ fn, situation: by.id }] : [];
  });
  const shown = tries.find((t) => t.fn.observe.some((o) => o.where.picture === "phone")) ?? tries[0];
  const outcome = shown && model.try(shown.fn, shown.situation).outcome;
  return outcome?.kind === "absent" ? (outcome.break.reasons[0] ?? "") : null;
}
