/**
 * How much is believed of each hypothesis, and what it is worth to ask something. Beliefs are arrays of probabilities in
 * the order of the hypotheses.
 */
export type Belief = Float64Array;

/** Something that can be asked of the car. */
export interface Question {
  id: string;
  minutes: number;
  /** By possible answer: its probability under each hypothesis; over all answers these add up to one. */
  answers: readonly Float64Array[];
}

/** Bayes' rule with weights that need not add up to one, and answers that are independent given the hypothesis. */
export function believe(weights: ArrayLike<number>, likelihoods: readonly ArrayLike<number>[]): Belief {
  const belief = Float64Array.from(weights);
  for (const likelihood of likelihoods)
    for (let h = 0; h < belief.length; h++) belief[h] = (belief[h] as number) * (likelihood[h] as number);
  return normalised(belief);
}

function normalised(belief: Float64Array): Belief {
  let total = 0;
  for (const p of belief) total += p;
  if (total > 0) for (let h = 0; h < belief.length; h++) belief[h] = (belief[h] as number) / total;
  return belief;
}

/** Shannon entropy in bits. */
export function entropyBits(belief: Iterable<number>): number {
  let h = 0;
  for (const p of belief) if (p > 0) h -= p * Math.log2(p);
  return h;
}

/**
 * Mean of a value over the answers of a question: the preposterior analysis of Raiffa, Decision Analysis (1968).
 * The value of asking is the difference to the value now.
 */
export function expectedAfter(belief: Belief, question: Question, value: (belief: Belief) => number): number {
  let sum = 0;
  for (const likelihood of question.answers) {
    const after = new Float64Array(belief.length);
    let p = 0;
    for (let h = 0; h < belief.length; h++) {
      const joint = (belief[h] as number) * (likelihood[h] as number);
      after[h] = joint;
      p += joint;
    }
    if (p <= 0) continue;
    for (let h = 0; h < after.length; h++) after[h] = (after[h] as number) / p;
    sum += p * value(after);
  }
  return sum;
}
