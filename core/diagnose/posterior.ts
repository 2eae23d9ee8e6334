/** What a person reports after a try or a check. `differs` means it works, but not as it should. */
export type Observed = string;

/** Something that can be done to learn more: a function test or a look at a part. */
export interface Check {
  id: string;
  title: string;
  how: string;
  minutes: number;
  /** Possible answers, as identifier and plain words. */
  answers: { id: string; label: string }[];
}

/** A hypothesis with what it predicts: for each check, the probability of each answer. */
export interface Hypothesis {
  id: string;
  weight: number;
  /** Probability of an answer if this hypothesis holds. */
  likelihood(check: string, answer: Observed): number;
}

export interface Ranked {
  id: string;
  probability: number;
}

/**
 * Posterior probabilities of the hypotheses after the given answers (Bayes' rule, answers independent given the
 * hypothesis). Weights need not add up to one. Sorted, most probable first; equal ones by identifier.
 */
export function posterior(hypotheses: readonly Hypothesis[], answers: ReadonlyMap<string, Observed>): Ranked[] {
  const weights = hypotheses.map((h) => {
    let w = h.weight;
    for (const [check, answer] of answers) w *= h.likelihood(check, answer);
    return w;
  });
  const total = weights.reduce((a, b) => a + b, 0);
  const ranked = hypotheses.map((h, i) => ({ id: h.id, probability: total > 0 ? (weights[i] ?? 0) / total : 0 }));
  return ranked.sort((a, b) => b.probability - a.probability || (a.id < b.id ? -1 : 1));
}

/** Shannon entropy in bits. */
export function entropyBits(probabilities: Iterable<number>): number {
  let h = 0;
  for (const p of probabilities) if (p > 0) h -= p * Math.log2(p);
  return h;
}

export interface RankedCheck {
  check: Check;
  /** Entropy of the causes now minus the expected entropy after the answer, in bits. */
  gainBits: number;
  bitsPerMinute: number;
}

/**
 * Checks ordered by expected information per minute. The information of a check is the entropy of the causes now
 * minus the expected entropy after its answer; the smallest expected entropy is the best single probe
 * (de Kleer and Williams, Artificial Intelligence 32, 1987). Checks that say nothing are left out.
 */
export function rankChecks(
  hypotheses: readonly Hypothesis[],
  now: readonly Ranked[],
  checks: readonly Check[],
): RankedCheck[] {
  const before = entropyBits(now.map((r) => r.probability));
  const of = new Map(hypotheses.map((h) => [h.id, h]));
  const live = now
    .filter((r) => r.probability > 1e-6)
    .map((r) => ({ p: r.probability, h: of.get(r.id) as Hypothesis }));
  return checks
    .map((check) => {
      let expected = 0;
      for (const answer of check.answers) {
        const joint = live.map(({ p, h }) => p * h.likelihood(check.id, answer.id));
        const total = joint.reduce((a, b) => a + b, 0);
        if (total > 0) expected += total * entropyBits(joint.map((j) => j / total));
      }
      const gainBits = Math.max(0, before - expected);
      return { check, gainBits, bitsPerMinute: gainBits / Math.max(0.1, check.minutes) };
    })
    .filter((r) => r.gainBits > 0.005)
    .sort((a, b) => b.bitsPerMinute - a.bitsPerMinute || (a.check.id < b.check.id ? -1 : 1));
}
