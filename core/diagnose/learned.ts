/** What the shop's closed jobs teach about how often each cause is the matter. */

import { type Hypothesis, NONE } from "./hypothesis";
import type { Hint } from "./judge";

/** What was repaired on closed jobs. */
export interface Experience {
  /** Closed jobs with the kit of this job. */
  jobsWithKit: number;
  /** By cause: on how many of them it was repaired, in all and with the kit of this job. */
  repairs: readonly { cause: string; jobs: number; withKit: number }[];
}

/** The assumed weights count as much as this many repairs, between kinds of causes and within a kind. Our assumption. */
const WORTH = { kinds: 30, within: 15 };

/**
 * How much likelier each hypothesis is than its weight says: Dirichlet smoothing, the assumed weights as counts that were
 * there before (a share of n among N repairs becomes (n + worth · share) / (N + worth)). Kinds learn from every job, the
 * causes within a kind from jobs with the same kit.
 */
export function learned(hypotheses: readonly Hypothesis[], experience: Experience): Map<string, Hint> {
  const kindOf = new Map(hypotheses.map((h) => [h.id, h.kind]));
  const listed = hypotheses.filter((h) => h.kind !== NONE);
  const sum = (of: readonly { weight: number }[]) => of.reduce((s, h) => s + h.weight, 0);
  const total = sum(listed);
  const known = experience.repairs.filter((r) => kindOf.has(r.cause));
  const repairs = known.reduce((s, r) => s + r.jobs, 0);
  if (repairs === 0 || total === 0) return new Map();
  const hints = new Map<string, Hint>();
  for (const kind of new Set(listed.map((h) => h.kind))) {
    const among = listed.filter((h) => h.kind === kind);
    const weight = sum(among);
    if (weight === 0) continue;
    const ofKind = known.filter((r) => kindOf.get(r.cause) === kind);
    const share = weight / total;
    const kindFactor = smoothed(count(ofKind, "jobs"), repairs, share, WORTH.kinds) / share;
    const withKit = count(ofKind, "withKit");
    for (const h of among) {
      const own = h.weight / weight;
      const mine = ofKind.find((r) => r.cause === h.id)?.withKit ?? 0;
      const factor = kindFactor * (smoothed(mine, withKit, own, WORTH.within) / own);
      hints.set(h.id, {
        factor,
        why: mine > 0 ? `Repaired on ${mine} of ${experience.jobsWithKit} jobs with this kit.` : "",
      });
    }
  }
  return hints;
}

function smoothed(n: number, of: number, share: number, worth: number): number {
  return (n + worth * share) / (of + worth);
}

function count(of: Experience["repairs"], field: "jobs" | "withKit"): number {
  return of.reduce((s, r) => s + r[field], 0);
}
