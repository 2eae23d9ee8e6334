/** What the finder of Intake shows of a job. */
import { type DrawnShape, drawnShape } from "../drawing/drawing";
import { type FinderAnswers, type FinderState, findVariant } from "../intake/finder";
import type { Job } from "../job/job";
import type { VariantProfile, VariantQuestion } from "../model/profile";

export interface FinderView {
  /** Asking again though one is known. */
  again: boolean;
  state: FinderState;
  answered: { question: VariantQuestion; answer: string | null }[];
  answers: FinderAnswers;
  /** Versions by identifier, for the entry that names the variant. */
  versions: Record<string, number>;
  identifyingFeatures: Record<string, string[]>;
  /** How each looks in the dash, where its document draws it. */
  looks: Record<string, DrawnShape[]>;
}

/**
 * The finder of a job; answers stand in the address as `a=question:answer`, an empty answer means “cannot tell”.
 *
 * @param own radios of this car in the library
 * @param counts how often the shop has met each, by identifier
 */
export function finderView(
  { plan }: Job,
  own: readonly VariantProfile[],
  counts: ReadonlyMap<string, number>,
  params: URLSearchParams,
): FinderView {
  const questions = plan.documents.car.questions ?? [];
  const answers: Record<string, string | null> = {};
  for (const given of params.getAll("a")) {
    const [question = "", answer = ""] = given.split(":");
    const known = questions.find((q) => q.id === question);
    if (known && (answer === "" || known.answers.some((a) => a.id === answer))) answers[question] = answer || null;
  }
  return {
    again: params.has("again"),
    state: findVariant(
      // The shop's own jobs count beside what the library says about how often a radio is met.
      own.map((v) => ({
        id: v.id,
        title: v.title,
        answers: v.answers ?? {},
        weight: (v.share ?? 1) + (counts.get(v.id) ?? 0),
      })),
      questions,
      answers,
    ),
    answered: Object.entries(answers).flatMap(([id, answer]) => {
      const question = questions.find((q) => q.id === id);
      return question ? [{ question, answer }] : [];
    }),
    answers,
    versions: Object.fromEntries(own.map((v) => [v.id, v.version])),
    identifyingFeatures: Object.fromEntries(own.map((v) => [v.id, v.identifyingFeatures])),
    looks: Object.fromEntries(own.flatMap((v) => (v.dash?.length ? [[v.id, v.dash.map(drawnShape)]] : []))),
  };
}
