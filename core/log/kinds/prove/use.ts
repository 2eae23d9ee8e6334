import { type Kind, unknown } from "../../kind";

interface UseData {
  use: string;
  works: boolean;
  /** Steps that a knob made for the clicks it was turned. */
  steps?: number;
}

interface UseSlice {
  /** Keys, knob and signs of the bus that were tried. */
  uses: Map<string, Omit<UseData, "use">>;
}

/** A key, the knob or a sign of the bus was tried. */
export const use: Kind<"prove.use", UseData, UseSlice> = {
  kind: "prove.use",
  empty: () => ({ uses: new Map() }),
  fold(state, { data: { use: id, ...tried } }) {
    state.uses.set(id, tried);
  },
  check: (job, { use: id }) => (job.use(id) === null ? unknown("key or sign", id) : null),
  // A knob is right when it makes a step for each click, and upwards.
  write: (job, asked) => (asked.steps === undefined ? asked : { ...asked, works: asked.steps === job.knobClicks() }),
  words({ use: id, works, steps }, job) {
    const counted = steps === undefined ? "" : `, ${steps} steps for ${job.knobClicks()} clicks`;
    return `${job.use(id) ?? "A key that is no longer in the plan"}: ${works ? "as it must be" : "not as it must be"}${counted}`;
  },
  upgrade: [],
};
