/** Which single switch, standing otherwise than it was entered, explains what the tests have shown. */

import type { JobState } from "../log/entry";
import { isFailure } from "../log/kinds/prove/result";
import { Model } from "../model/outcome";
import { type JobPlan, openNow } from "./plan";

export interface SwitchSuspects {
  /** Tests that fail, by name. */
  failing: string[];
  /** Switches that alone explain every answer, failures and passes alike; empty when none does. */
  suspects: { number: number; entered: string; other: string }[];
  /** What was entered explains it already: the fault lies elsewhere, not in how the bank was noted. */
  asEntered: boolean;
}

/** Null while the bank was not entered or nothing fails. */
export function switchSuspects(plan: JobPlan, state: JobState): SwitchSuspects | null {
  const bank = plan.documents.kit.switchBank;
  const { switches } = state;
  if (!bank || !switches) return null;
  const tried = plan.tests.flatMap((t) => {
    const answer = state.results.get(t.id)?.value;
    return answer === undefined || answer === "impossible" ? [] : [{ test: t, fails: isFailure(answer) }];
  });
  const failing = tried.filter((t) => t.fails);
  if (failing.length === 0) return null;
  const { openLinks, settings } = openNow(plan, state);
  const model = new Model(plan.fitted, { ...(openLinks ? { openLinks } : {}) });
  const explains = (own: Readonly<Record<string, string>>) => {
    const stands = { ...plan.settings, ...settings, ...switches, ...own };
    return tried.every(({ test, fails }) => (model.see(test.fn, test.situationId, stands).kind !== "ok") === fails);
  };
  return {
    failing: [...new Set(failing.map((f) => f.test.fn.name))],
    suspects: bank.switches.flatMap((id, i) => {
      const key = `${bank.part}.${id}`;
      const entered = switches[key] ?? bank.off;
      const other = entered === bank.on ? bank.off : bank.on;
      return explains({ [key]: other }) ? [{ number: i + 1, entered, other }] : [];
    }),
    asEntered: explains({}),
  };
}
