import { asAsked, type Kind, noted, refuse, unknown } from "../../kind";
import type { ResultSlice } from "./result";

/** The answer of a look or a measurement while a cause is searched. */
export const check: Kind<
  "prove.check",
  { check: string; answer: string },
  object,
  { check: string; answer: string },
  Pick<ResultSlice, "checks">
> = {
  kind: "prove.check",
  empty: () => ({}),
  fold(state, entry) {
    state.checks.set(entry.data.check, noted(entry.data.answer, entry));
  },
  check(job, { check, answer }) {
    const look = job.look(check);
    if (!look) return unknown("check", check);
    return look.options.some((o) => o.id === answer)
      ? null
      : refuse(
          look.name,
          `“${answer}” is no answer to: ${look.name}`,
          `Answer with one of ${look.options.map((o) => o.name).join(", ")}.`,
        );
  },
  write: asAsked,
  words({ check, answer }, job) {
    const look = job.look(check);
    return `${look?.name ?? "A check that is no longer in the plan"}: ${look?.options.find((o) => o.id === answer)?.name ?? answer}`;
  },
  upgrade: [],
};
