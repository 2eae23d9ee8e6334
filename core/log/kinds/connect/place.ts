import { type Kind, refuse, unknown } from "../../kind";

interface PlaceData {
  part: string;
  place: string;
  /** Where it lay before; empty in entries from before it was written. */
  before: string;
}

export interface PlaceSlice {
  /** Where parts of the kit lie, when not where its profile says. */
  placed: Map<string, string>;
}

export const place: Kind<"connect.place", PlaceData, PlaceSlice, { part: string; place: string }> = {
  kind: "connect.place",
  empty: () => ({ placed: new Map() }),
  fold(state, { data }) {
    state.placed.set(data.part, data.place);
  },
  check(job, { part, place }) {
    if (!job.movable(part)) return unknown("part that can lie elsewhere", part);
    return job.places().includes(place)
      ? null
      : refuse(place, `This car has no place “${place}”.`, `Choose one of ${job.places().join(", ")}.`);
  },
  write: (job, asked) => ({ ...asked, before: job.movable(asked.part)?.place ?? "" }),
  words: ({ part, place, before }, job) =>
    `${job.movable(part)?.name ?? "A part that is no longer in the plan"} lies at: ${place}${before ? ` instead of ${before}` : ""}`,
  upgrade: [(old: Omit<PlaceData, "before">) => ({ ...old, before: "" })],
};
