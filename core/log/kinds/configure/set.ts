import { type Kind, refuse, unknown } from "../../kind";

interface SetData {
  setting: string;
  done: boolean;
  /** Values before and after; empty in entries from before they were written. */
  before: string;
  after: string;
}

export interface MadeSlice {
  /** Settings of the kit that were made: coded, moved, loaded. */
  made: Set<string>;
}

export const set: Kind<"configure.set", SetData, MadeSlice, { setting: string; done: boolean }> = {
  kind: "configure.set",
  empty: () => ({ made: new Set() }),
  fold(state, { data }) {
    if (data.done) state.made.add(data.setting);
    else state.made.delete(data.setting);
  },
  check(job, { setting }) {
    if (!job.setting(setting)) return unknown("setting", setting);
    return job.isKnown(setting)
      ? refuse(
          "setting",
          "How it stands is known from the car, so it cannot be ticked.",
          "Change the coded word or the firmware it follows from.",
        )
      : null;
  },
  write(job, { setting, done }) {
    const fact = job.setting(setting);
    const value = (made: boolean) => (made ? fact?.planned : fact?.delivered) ?? "";
    return { setting, done, before: value(job.state.made.has(setting)), after: value(done) };
  },
  words({ setting, done, before, after }, job) {
    const name = job.setting(setting)?.name ?? "A setting that is no longer in the plan";
    const values = before || after ? ` (${before || "unknown"} → ${after || "unknown"})` : "";
    return `${name}: ${done ? "done" : "not done"}${values}`;
  },
  upgrade: [(old: Omit<SetData, "before" | "after">) => ({ ...old, before: "", after: "" })],
};
