import { type Kind, refuse } from "../../kind";

/** A step from one version to the next. */
interface Step {
  from: string;
  to: string;
}

interface FirmwareData extends Step {
  state: "started" | "done" | "interrupted";
  /** Supply as it was measured before the start; null for what needs none. */
  volts: number | null;
}

export interface FirmwareSlice {
  firmware: {
    /** Version with which the radio came, once an update was started; what is otherwise since then is our doing. */
    came: string | null;
    /** Version after the last update made here; null while the car sheet counts, empty when an update broke off. */
    version: string | null;
    running: (Step & { volts: number | null; at: string }) | null;
    /** An update that broke off: which version the radio has is not known. */
    interrupted: (Step & { at: string }) | null;
  };
}

/** Least supply at the start of an update, with the maintainer on; common practice. */
export const UPDATE_VOLTS = 12.5;

/** An update of the radio's firmware, step by step, never below a safe supply. */
export const firmware: Kind<
  "configure.firmware",
  FirmwareData,
  FirmwareSlice,
  { state: FirmwareData["state"]; volts?: number | undefined }
> = {
  kind: "configure.firmware",
  empty: () => ({ firmware: { came: null, version: null, running: null, interrupted: null } }),
  fold(state, { data: { from, to, state: how, volts }, at }) {
    const { version } = state.firmware;
    const came = state.firmware.came ?? from;
    if (how === "started") state.firmware = { came, version, running: { from, to, volts, at }, interrupted: null };
    if (how === "done") state.firmware = { came, version: to, running: null, interrupted: null };
    if (how === "interrupted") state.firmware = { came, version: "", running: null, interrupted: { from, to, at } };
  },
  check(job, { state, volts }) {
    const { running, interrupted } = job.state.firmware;
    if (state !== "started")
      return running
        ? null
        : refuse("firmware", "No update is running.", "Start it here first, so that the supply is checked.");
    if (running) return refuse("firmware", "An update is running already.", "Say how it ended.");
    if (!interrupted && !job.nextUpdate())
      return refuse("firmware", "No update is to be made.", "The radio has what the kit needs, or no way is known.");
    if (volts === undefined)
      return refuse(
        "supply",
        "The supply was not measured.",
        "Measure at the battery with the maintainer on, then start.",
      );
    return volts >= UPDATE_VOLTS
      ? null
      : refuse(
          "supply",
          `${volts} V is too little; an update needs ${UPDATE_VOLTS} V at least.`,
          "Connect the battery maintainer, wait until it holds, measure again. A radio that loses its supply can be lost.",
        );
  },
  write(job, { state, volts }) {
    const { running, interrupted } = job.state.firmware;
    const step = running ?? interrupted ?? job.nextUpdate() ?? { from: "", to: "" };
    return { from: step.from, to: step.to, state, volts: volts ?? null };
  },
  asked: ({ state, volts }) => ({ state, ...(volts === null ? {} : { volts }) }),
  words: ({ from, to, state, volts }) =>
    state === "started"
      ? `Firmware update ${from} → ${to} started at ${volts} V`
      : state === "done"
        ? `Firmware is ${to}`
        : `Firmware update ${from} → ${to} broke off; which version the radio has is not known`,
  upgrade: [],
};
