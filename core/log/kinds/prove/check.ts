import { type Kind, noted, refuse, unknown } from "../../kind";
import type { ResultSlice } from "./result";

/** The answer of a look or a measurement while a cause is searched. */
export const check: Kind<
  "prove.check",
  /** With what the meter showed, where a value was given. */
  { check: string; answer: string; value?: number },
  object,
  /** An answer in words, or a value. */
  { check: string; answer?: string; value?: number },
  Pick<ResultSlice, "checks">
> = {
  kind: "prove.check",
  empty: () => ({}),
  fold(state, entry) {
    state.checks.set(entry.data.check, noted(entry.data.answer, entry));
  },
  check(job, { check, answer, value }) {
    const look = job.look(check);
    if (!look) return unknown("check", check);
    if (value !== undefined)
      return look.answerOf(value) === null
        ? refuse(look.name, `${look.name}: no value is measured here.`, "Answer in words.")
        : null;
    return look.options.some((o) => o.id === answer)
      ? null
      : refuse(
          look.name,
          `“${answer}” is no answer to: ${look.name}`,
          `Answer with one of ${look.options.map((o) => o.name).join(", ")}.`,
        );
  },
  write(job, { check, answer, value }) {
    const found = value === undefined ? answer : job.look(check)?.answerOf(value);
    return { check, answer: found ?? "", ...(value === undefined ? {} : { value }) };
  },
  words({ check, answer, value }, job) {
    const look = job.look(check);
    if (look?.unit && value !== undefined) return `${look.name}: ${value} ${look.unit}`;
    return `${look?.name ?? "A check that is no longer in the plan"}: ${look?.options.find((o) => o.id === answer)?.name ?? answer}`;
  },
  upgrade: [],
};
