import { asAsked, type Kind, type Noted, noted, unknown } from "../../kind";

/** What a person saw at a function test. `impossible` says nothing about the causes. */
export type TestAnswer = "pass" | "nothing" | "wrong" | "late" | "impossible";

/** True for an answer that means the test did not pass. */
export function isFailure(answer: string | undefined): boolean {
  return answer === "nothing" || answer === "wrong" || answer === "late";
}

const ANSWER_WORDS: Record<TestAnswer, string> = {
  pass: "works",
  nothing: "nothing comes",
  wrong: "something else comes",
  late: "comes too late",
  impossible: "could not be tried",
};

interface ResultData {
  test: string;
  answer: TestAnswer;
  note: string;
}

export interface ResultSlice {
  /** Answers of tests and checks that still count: those after the last repair. */
  results: Map<string, Noted<string>>;
  checks: Map<string, Noted<string>>;
}

interface Tries {
  /** Every try of a test, also those before the last repair: each leaves the car's key somehow. */
  tries: { test: string; at: string; answer: TestAnswer; by: string }[];
}

export const result: Kind<"prove.result", ResultData, ResultSlice & Tries> = {
  kind: "prove.result",
  empty: () => ({ results: new Map(), checks: new Map(), tries: [] }),
  fold(state, entry) {
    const { test, answer, note } = entry.data;
    state.results.set(test, noted(answer, entry, note));
    state.tries.push({ test, at: entry.at, answer, by: entry.by });
  },
  check: (job, { test }) => (job.test(test) === null ? unknown("test", test) : null),
  write: asAsked,
  words: ({ test, answer, note }, job) =>
    `${job.test(test) ?? "A test that is no longer in the plan"}: ${ANSWER_WORDS[answer]}${note ? `, “${note}”` : ""}`,
  upgrade: [],
};
