import { asAsked, type Kind, unknown } from "../../kind";

export const wishes: Kind<"intake.wishes", { functions: string[] }, { wishes: string[] | null }> = {
  kind: "intake.wishes",
  empty: () => ({ wishes: null }),
  fold(state, { data }) {
    state.wishes = data.functions;
  },
  // Wishes are functions of any kit of the library, not of the kit at hand alone.
  check(job, { functions }) {
    const strange = functions.find((id) => job.wish(id) === null);
    return strange === undefined ? null : unknown("function that can be wished for", strange);
  },
  write: asAsked,
  words: ({ functions }, job) =>
    functions.length === 0
      ? "Wishes: none"
      : `Wishes: ${functions.map((id) => job.wish(id) ?? "a function that is no longer in the library").join(", ")}`,
  upgrade: [],
};
