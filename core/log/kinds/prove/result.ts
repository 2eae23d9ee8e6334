import { type Kind, type Noted, noted, unknown } from "../../kind";

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
  /** Seconds that it took to come, where they were taken. */
  afterS?: number;
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
    const after = entry.data.afterS === undefined ? "" : `${entry.data.afterS.toFixed(1)} s`;
    state.results.set(test, noted(answer, entry, [after, note].filter(Boolean).join(", ")));
    state.tries.push({ test, at: entry.at, answer, by: entry.by });
  },
  check: (job, { test }) => (job.test(test) === null ? unknown("test", test) : null),
  write(job, asked) {
    const within = job.testWithinS(asked.test);
    const late = asked.answer === "pass" && within !== null && (asked.afterS ?? 0) > within;
    return late ? { ...asked, answer: "late" } : asked;
  },
  words({ test, answer, note, afterS }, job) {
    const after = afterS === undefined ? "" : ` after ${afterS.toFixed(1)} s`;
    return `${job.test(test) ?? "A test that is no longer in the plan"}: ${ANSWER_WORDS[answer]}${after}${note ? `, “${note}”` : ""}`;
  },
  upgrade: [],
};
