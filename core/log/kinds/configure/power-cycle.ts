import { type Kind, refuse } from "../../kind";

interface PowerCycleData {
  /** The plug was pulled; it is in again, after it was out long enough. */
  step: "out" | "in";
}

export interface PowerCycleSlice {
  /** The module was without power after the last change of a switch. */
  powerCycled: boolean;
  /** When its plug was pulled, while it is out; ISO 8601, UTC. */
  powerOut: string | null;
}

/** So long the plug stays out, in seconds; common practice. */
export const POWER_OUT_S = 10;

export const powerCycle: Kind<
  "configure.powerCycle",
  PowerCycleData,
  PowerCycleSlice,
  { step?: PowerCycleData["step"] | undefined }
> = {
  kind: "configure.powerCycle",
  empty: () => ({ powerCycled: false, powerOut: null }),
  fold(state, { data, at }) {
    state.powerCycled = data.step === "in";
    state.powerOut = data.step === "out" ? at : null;
  },
  check(job, { step }) {
    if (!job.bank())
      return refuse("module", "This kit has no switches that are read at power-up.", "Nothing is to be done here.");
    const { powerOut } = job.state;
    if (powerOut !== null && step !== "out") {
      const left = POWER_OUT_S - (Date.parse(job.at) - Date.parse(powerOut)) / 1000;
      return left > 0
        ? refuse("module", `It keeps its charge for a while: wait ${Math.ceil(left)} s more.`, "Then plug it in.")
        : null;
    }
    const why = job.noPower();
    return why
      ? refuse(
          "module",
          `The module has no power to take. ${why}`,
          "Give it power first, then take it and give it again.",
        )
      : null;
  },
  write: (_, { step }) => ({ step: step ?? "in" }),
  words: ({ step }) => (step === "out" ? "Plug of the module pulled" : "Module power-cycled"),
  upgrade: [(): PowerCycleData => ({ step: "in" })],
};
