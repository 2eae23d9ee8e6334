import { asAsked, type Kind, refuse } from "../../kind";

interface Point {
  text: string;
  at: string;
  by: string;
  entry: string;
}

/** Something the customer must know. */
export const point: Kind<"handover.point", { text: string }, { points: Point[] }> = {
  kind: "handover.point",
  empty: () => ({ points: [] }),
  fold(state, { data, at, by, entry }) {
    state.points.push({ text: data.text, at, by, entry });
  },
  check: (job, { text }) =>
    job.state.points.some((p) => p.text === text)
      ? refuse("open points", `“${text}” is noted already.`, "Note only what is new.")
      : null,
  write: asAsked,
  words: ({ text }) => `Noted for the customer: ${text}`,
  upgrade: [],
};
