import { outsideMessage } from "../../../bus/bus-map";
import type { FoundSignal } from "../../../bus/hunt/found";
import { idText } from "../../../bus/identifier";
import { asAsked, type Kind, refuse } from "../../kind";

export interface SignalSlice {
  /** Found signals in the order of their first naming; one of the same name takes the place of the earlier one. */
  signals: readonly (FoundSignal & { at: string; by: string })[];
}

/** A signal that was found in a log and named. */
export const signal: Kind<"bus.signal", FoundSignal, SignalSlice> = {
  kind: "bus.signal",
  empty: () => ({ signals: [] }),
  fold(state, { data, at, by }) {
    const known = state.signals.findIndex((s) => s.signal === data.signal);
    const entry = { ...data, at, by };
    state.signals = known < 0 ? [...state.signals, entry] : state.signals.with(known, entry);
  },
  check(job, data) {
    const from = data.thing === "" ? "dbc" : "log";
    if (!job.state.files.some((f) => f.file === data.file && f.what === from))
      return refuse("file", "The file it comes from is not stored with the job.", "Store the file first.");
    const twin = job.state.signals.find((s) => s.signal === data.signal && s.message !== data.message);
    if (twin && from === "dbc")
      return refuse(data.signal, `The message ${twin.message} has a signal of this name.`, "Take one of the two.");
    const outside = outsideMessage(data);
    if (outside) return refuse(data.signal, outside, "Search again.");
    const other = job.state.signals.find(
      (s) => s.id === data.id && s.extended === data.extended && s.message !== data.message,
    );
    return other
      ? refuse(
          data.message,
          `The message ${idText(data.id, data.extended)} is called ${other.message} in this job already.`,
          `Use that name.`,
        )
      : null;
  },
  write: asAsked,
  words: ({ signal, message, id, extended, thing }) =>
    thing === ""
      ? `Taken from a bus description: ${signal} in ${message} (${idText(id, extended)})`
      : `Found on the bus: ${signal} in ${message} (${idText(id, extended)}), by the cues for ${thing}`,
  upgrade: [],
};
