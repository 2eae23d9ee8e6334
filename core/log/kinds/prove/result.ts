import {
  answerOf,
  type BreakAt,
  type InsteadId,
  insteadOf,
  insteadWords,
  sightKey,
  sightWords,
} from "../../../model/sight";
import type { ContactRef } from "../../../model/types";
import { type Kind, type Noted, noted, refuse, unknown } from "../../kind";

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
  /** What was there instead. */
  seen?: InsteadId;
  /** Of loudspeakers that are not all right: those that play at their own corner. */
  right?: ContactRef[];
  /** What it breaks off at. */
  breaksAt?: BreakAt;
  /** Seconds that it took to come, where they were taken. */
  afterS?: number;
}

/** An answer with what was seen, as `sightKey` writes it; only the answer where nobody said more. */
export type Answered = Noted<string> & {
  sight: string;
  /** Tries in a row that showed the same. */
  same: number;
};

export interface ResultSlice {
  /** Answers of tests and checks that still count: those after the last repair. */
  results: Map<string, Answered>;
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
    const { test, answer, note, seen, right, breaksAt } = entry.data;
    const detail = { ...(right ? { right } : {}), ...(breaksAt ? { at: breaksAt } : {}) };
    const sight = seen ? sightKey({ what: seen, ...detail }) : answer;
    const after = entry.data.afterS === undefined ? "" : `${entry.data.afterS.toFixed(1)} s`;
    const said = [after, note].filter(Boolean).join(", ");
    const before = state.results.get(test);
    state.tries.push({ test, at: entry.at, answer, by: entry.by });
    // From a device that was without connection: somebody has tried it since, and that counts.
    if (before && before.by !== entry.by && before.at > entry.at) return;
    const same = before?.sight === sight ? before.same + (isSecondPress(before, entry) ? 0 : 1) : 1;
    state.results.set(test, { ...noted(answer, entry, said), sight, same });
  },
  check(job, { test, seen, right }) {
    const sense = job.testSense(test);
    if (!sense) return unknown("test", test);
    const name = job.test(test) ?? test;
    if (seen && !insteadOf(sense.sense).includes(seen))
      return refuse(
        name,
        `“${insteadWords(seen)}” cannot be seen at it.`,
        `Say one of ${insteadOf(sense.sense).map(insteadWords).join(", ")}.`,
      );
    const strange = right?.find((r) => !sense.at.includes(r));
    return strange ? refuse(name, `It is not heard at ${strange}.`, "Tap loudspeakers of this test.") : null;
  },
  write(job, asked) {
    if (asked.seen) return { ...asked, answer: answerOf({ what: asked.seen }) };
    const within = job.testWithinS(asked.test);
    const late = asked.answer === "pass" && within !== null && (asked.afterS ?? 0) > within;
    return late ? { ...asked, answer: "late" } : asked;
  },
  words(data, job) {
    const { test, answer, note, afterS } = data;
    const after = afterS === undefined ? "" : ` after ${afterS.toFixed(1)} s`;
    const what = data.seen ? seenWords(data, job.testSense(test)?.at ?? []) : ANSWER_WORDS[answer];
    return `${job.test(test) ?? "A test that is no longer in the plan"}: ${what}${after}${note ? `, “${note}”` : ""}`;
  },
  upgrade: [],
};

/** Nobody tries a test again so soon: the finger came down twice. Our assumption. */
const SECOND_PRESS_MS = 1500;

function isSecondPress(before: Pick<Answered, "at" | "by">, { at, by }: Pick<Answered, "at" | "by">): boolean {
  return by === before.by && Math.abs(Date.parse(at) - Date.parse(before.at)) < SECOND_PRESS_MS;
}

/** “breaks off: a bump or a pull at a lead”, “some loudspeakers silent: RR”. */
function seenWords({ seen, right, breaksAt }: ResultData, at: readonly ContactRef[]): string {
  if (!seen) return "";
  const wrong = right ? at.filter((c) => !right.includes(c)).map((c) => c.split(".").at(-1)) : [];
  return [sightWords(sightKey({ what: seen, ...(breaksAt ? { at: breaksAt } : {}) })), wrong.join(", ")]
    .filter(Boolean)
    .join(": ");
}
