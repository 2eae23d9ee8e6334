import { type Kind, refuse } from "../../kind";
import type { PowerCycleSlice } from "./power-cycle";

interface GiveUpData {
  /** Functions that the car is to do without, with their names at that time; empty takes the choice back. */
  functions: { id: string; name: string }[];
}

export interface GiveUpSlice {
  /** Functions given up on purpose, because they cannot be had together with others. */
  givenUp: readonly string[];
}

/** Which of several functions that cannot be had together this car is to do without. */
export const giveUp: Kind<
  "configure.giveUp",
  GiveUpData,
  GiveUpSlice,
  { functions: string[] },
  GiveUpSlice & PowerCycleSlice
> = {
  kind: "configure.giveUp",
  empty: () => ({ givenUp: [] }),
  fold(state, { data }) {
    state.givenUp = data.functions.map((f) => f.id);
  },
  check(job, { functions }) {
    if (functions.length === 0)
      return job.state.givenUp.length > 0
        ? null
        : refuse("functions given up", "Nothing is given up on this job.", "Load the page again.");
    const same = (way: readonly { id: string }[]) =>
      way.length === functions.length && way.every((f) => functions.includes(f.id));
    return job.waysOut().some(same)
      ? null
      : refuse(
          "functions given up",
          "These functions need not be given up, or not all of them.",
          "Load the page again and take one of the ways that it shows.",
        );
  },
  write: (job, { functions }) => ({
    functions: job
      .waysOut()
      .flat()
      .filter(first)
      .filter((f) => functions.includes(f.id)),
  }),
  asked: ({ functions }) => ({ functions: functions.map((f) => f.id) }),
  words: ({ functions }) =>
    functions.length === 0
      ? "Nothing is given up any more"
      : `Given up on this car: ${functions.map((f) => f.name).join(", ")}`,
  upgrade: [],
};

function first(f: { id: string }, i: number, all: readonly { id: string }[]): boolean {
  return all.findIndex((o) => o.id === f.id) === i;
}
