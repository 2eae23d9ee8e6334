import { mappedSignals } from "../../../bus/bus-map";
import type { FoundSignal } from "../../../bus/hunt/found";
import type { Kind } from "../../kind";
import { type DocumentPin, notInLibrary } from "../fit/kit";
import type { SignalSlice } from "./signal";

interface MapData {
  map: DocumentPin;
  title: string;
  /** Its signals as they were when it was taken. */
  signals: FoundSignal[];
}

interface MapSlice {
  /** The bus map that was taken last. */
  busMap: DocumentPin | null;
}

/** Signals of the car that are known from the library. What was found on the car itself stays. */
export const busMap: Kind<"bus.map", MapData, MapSlice, { map: DocumentPin }, MapSlice & SignalSlice> = {
  kind: "bus.map",
  empty: () => ({ busMap: null }),
  fold(state, { data: { map, signals }, at, by }) {
    state.busMap = map;
    const own = state.signals.filter((s) => s.file !== "");
    const names = new Set(own.map((s) => s.signal));
    state.signals = [...own, ...signals.filter((s) => !names.has(s.signal)).map((s) => ({ ...s, at, by }))];
  },
  check(job, { map }) {
    return job.document("busMap", map) === null ? notInLibrary("bus map", map) : job.mapClash("busMap", map);
  },
  write(job, { map }) {
    const found = job.busMap(map);
    return { map, title: found?.title ?? map.slug, signals: found ? mappedSignals(found) : [] };
  },
  words: ({ title, map, signals }) =>
    `Bus map taken: ${title}, version ${map.version}, ${signals.length === 1 ? "1 signal" : `${signals.length} signals`}`,
  upgrade: [],
};
