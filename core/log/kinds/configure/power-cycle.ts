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
  check(job) {
    if (!job.bank())
      return refuse("module", "This kit has no switches that are read at power-up.", "Nothing is to be done here.");
    const why = job.noPower();
    return why
      ? refuse(
          "module",
          `The module has no power to take. ${why}`,
          "Give it power first, then take it and give it again.",
        )
      : null;
  },
  write: asAsked,
  words: () => "Module power-cycled",
  upgrade: [],
};
