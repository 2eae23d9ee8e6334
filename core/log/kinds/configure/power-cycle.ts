import { asAsked, type Kind, refuse } from "../../kind";

export interface PowerCycleSlice {
  /** The module was without power after the last change of a switch. */
  powerCycled: boolean;
}

export const powerCycle: Kind<"configure.powerCycle", Record<string, never>, PowerCycleSlice> = {
  kind: "configure.powerCycle",
  empty: () => ({ powerCycled: false }),
  fold(state) {
    state.powerCycled = true;
  },
  check: (job) =>
    job.bank()
      ? null
      : refuse("module", "This kit has no switches that are read at power-up.", "Nothing is to be done here."),
  write: asAsked,
  words: () => "Module power-cycled",
  upgrade: [],
};
