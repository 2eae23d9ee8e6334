import type { VariantQuestion } from "../model/profile";

/** A radio variant as the finder sees it: what it can answer and how often it is met. */
export interface FinderVariant {
  id: string;
  title: string;
  /** Answers it can give by question; a question left out says nothing about it. */
  answers: Readonly<Record<string, readonly string[]>>;
  /** How often it is met, in any unit; only ratios count. */
  weight: number;
}

/** An answer by question; `null` stands for “cannot tell”. */
export type FinderAnswers = Readonly<Record<string, string | null>>;

export interface QuestionValue {
  question: VariantQuestion;
  /** Expected information about the variant, in bits. */
  gainBits: number;
  /** Gain per minute of work; the order of asking. */
  gainPerMinute: number;
}

export interface FinderState {
  /** Variants that the answers leave, with their share, most likely first. */
  remaining: { id: string; title: string; share: number }[];
  /** Best question first; empty when none separates the rest. */
  questions: QuestionValue[];
  /** Question that a person in the driver's seat can answer; null when only a look with the radio out is left. */
  next: QuestionValue | null;
  /** When several remain and nothing in the seat separates them: where to look with the radio out. */
  later: QuestionValue[];
  /** Answers that no variant of the library gives together. */
  contradiction: boolean;
  /** On a contradiction: the variants against which the fewest answers stand, with those answers' questions. */
  nearest: { id: string; title: string; against: VariantQuestion[] }[];
}

/** Even a glance costs this much; keeps two-second questions from winning by their price alone. */
const ASKING_S = 8;
/** Less than this is rounding, not information. */
const NOISE_BITS = 1e-9;

/**
 * Entropy of a distribution given by weights, in bits. Source: Shannon 1948.
 *
 * @example entropy([9, 5]) // 0.940 (the weather example of Quinlan, Machine Learning 1, 1986)
 */
export function entropy(weights: readonly number[]): number {
  const total = weights.reduce((a, b) => a + b, 0);
  if (total <= 0) return 0;
  return weights.reduce((h, w) => (w > 0 ? h - (w / total) * Math.log2(w / total) : h), 0);
}

/**
 * Expected information of a split: entropy of the classes before it less the mean entropy after it, in bits.
 * Source: Quinlan, Induction of Decision Trees, Machine Learning 1 (1986).
 *
 * @param cells weight of each class (columns) under each answer (rows)
 */
export function informationGain(cells: readonly (readonly number[])[]): number {
  const classes = cells[0]?.length ?? 0;
  const before = Array.from({ length: classes }, (_, c) => cells.reduce((s, row) => s + (row[c] ?? 0), 0));
  const total = before.reduce((a, b) => a + b, 0);
  if (total <= 0) return 0;
  const after = cells.reduce((s, row) => s + (row.reduce((a, b) => a + b, 0) / total) * entropy(row), 0);
  return Math.max(0, entropy(before) - after);
}

/**
 * Where the finder stands after some answers: what remains, and the question that splits it best for the effort.
 *
 * A variant that can give several answers to a question gives each with equal chance. A question answered with
 * “cannot tell” is not asked again and rules nothing out.
 */
export function findVariant(
  variants: readonly FinderVariant[],
  questions: readonly VariantQuestion[],
  answers: FinderAnswers,
): FinderState {
  const left = variants
    .map((v) => ({ variant: v, weight: v.weight * likelihood(v, questions, answers) }))
    .filter((x) => x.weight > 0);
  const total = left.reduce((s, x) => s + x.weight, 0);
  const remaining = left
    .map((x) => ({ id: x.variant.id, title: x.variant.title, share: x.weight / total }))
    .sort((a, b) => b.share - a.share || (a.id < b.id ? -1 : 1));
  const open = questions
    .filter((q) => !(q.id in answers))
    .map((q) => questionValue(q, left))
    .filter((v) => v.gainBits > NOISE_BITS)
    .sort((a, b) => b.gainPerMinute - a.gainPerMinute || (a.question.id < b.question.id ? -1 : 1));
  const inSeat = open.filter((v) => !v.question.radioOut);
  return {
    remaining,
    questions: open,
    next: remaining.length > 1 ? (inSeat[0] ?? null) : null,
    later: remaining.length > 1 ? open.filter((v) => v.question.radioOut) : [],
    contradiction: variants.length > 0 && remaining.length === 0,
    nearest: remaining.length === 0 ? nearestTo(variants, questions, answers) : [],
  };
}

/** One wrong look does not outvote the others: what all answers but the fewest speak for. */
function nearestTo(
  variants: readonly FinderVariant[],
  questions: readonly VariantQuestion[],
  answers: FinderAnswers,
): FinderState["nearest"] {
  const all = variants.map((v) => ({
    id: v.id,
    title: v.title,
    against: questions.filter((q) => {
      const answer = answers[q.id];
      return answer !== undefined && answer !== null && chance(v, q, answer) === 0;
    }),
  }));
  const fewest = Math.min(...all.map((v) => v.against.length));
  return all.filter((v) => v.against.length === fewest);
}

function questionValue(
  question: VariantQuestion,
  left: readonly { variant: FinderVariant; weight: number }[],
): QuestionValue {
  const cells = question.answers.map((a) => left.map((x) => x.weight * chance(x.variant, question, a.id)));
  const gainBits = informationGain(cells);
  return { question, gainBits, gainPerMinute: (gainBits / (question.effortS + ASKING_S)) * 60 };
}

/** Chance that a variant gives an answer; without a word about it every answer is equally likely. */
function chance(variant: FinderVariant, question: VariantQuestion, answer: string): number {
  const given = variant.answers[question.id];
  if (!given) return 1 / question.answers.length;
  return given.includes(answer) ? 1 / given.length : 0;
}

function likelihood(variant: FinderVariant, questions: readonly VariantQuestion[], answers: FinderAnswers): number {
  let p = 1;
  for (const question of questions) {
    const answer = answers[question.id];
    if (answer !== undefined && answer !== null) p *= chance(variant, question, answer);
  }
  return p;
}
