import { type Kind, refuse, unknown } from "../../kind";
import type { PowerCycleSlice } from "./power-cycle";

interface SwitchesData {
  settings: Record<string, string>;
  /** As the bank was entered before; null for the first time. */
  before: Record<string, string> | null;
  /** The module had no power meanwhile: it reads the switches as it starts, and needs no power cycle. */
  unpowered: boolean;
}

export interface SwitchesSlice {
  switches: Record<string, string> | null;
}

export const switches: Kind<
  "configure.switches",
  SwitchesData,
  SwitchesSlice,
  { settings: Record<string, string> },
  SwitchesSlice & PowerCycleSlice
> = {
  kind: "configure.switches",
  empty: () => ({ switches: null }),
  fold(state, { data }) {
    state.powerCycled = data.unpowered || (state.powerCycled && sameRecord(state.switches, data.settings));
    state.switches = data.settings;
  },
  check(job, { settings }) {
    const bank = job.bank();
    if (!bank) return refuse("switch bank", "This kit has no switch bank.", "Load the page again.");
    const strange = Object.keys(settings).find((k) => !bank.switches.includes(k));
    if (strange) return unknown("switch", strange);
    const missing = bank.switches.findIndex((k) => settings[k] !== bank.on && settings[k] !== bank.off);
    return missing < 0
      ? null
      : refuse(
          `switch ${missing + 1}`,
          `Switch ${missing + 1} is not entered: on or off.`,
          "Enter every switch as it stands.",
        );
  },
  write: (job, { settings }) => ({
    settings,
    before: job.state.switches && { ...job.state.switches },
    unpowered: !job.isPowered(),
  }),
  words({ settings, before }, job) {
    const bank = job.bank();
    const changed = Object.keys(settings).filter((k) => before && before[k] !== settings[k]);
    const number = (k: string) => (bank?.switches.indexOf(k) ?? -1) + 1 || k;
    if (before === null) return `Switch bank entered: ${Object.values(settings).join(" ")}`;
    if (changed.length === 0) return "Switch bank entered again, nothing changed";
    return `Switch bank changed: ${changed.map((k) => `${number(k)} from ${before[k] ?? "unknown"} to ${settings[k]}`).join(", ")}`;
  },
  upgrade: [
    (old: Omit<SwitchesData, "before" | "unpowered">) => ({ ...old, before: null }),
    (old: Omit<SwitchesData, "unpowered">) => ({ ...old, unpowered: false }),
  ],
};

function sameRecord(a: Record<string, string> | null, b: Record<string, string>): boolean {
  return a !== null && Object.keys({ ...a, ...b }).every((k) => a[k] === b[k]);
}
