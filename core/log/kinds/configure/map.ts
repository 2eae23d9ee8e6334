import { asAsked, type Kind } from "../../kind";
import { type DocumentPin, notInLibrary } from "../fit/kit";

interface MapData {
  map: DocumentPin;
}

/** Which coding map the words of this car are read with. */
export const map: Kind<"configure.map", MapData, { codingMap: DocumentPin | null }> = {
  kind: "configure.map",
  empty: () => ({ codingMap: null }),
  fold(state, { data }) {
    state.codingMap = data.map;
  },
  check: (job, { map }) =>
    job.document("coding", map) === null ? notInLibrary("coding map", map) : job.mapClash("coding", map),
  write: asAsked,
  words: ({ map }, job) => `Coding map: ${job.document("coding", map) ?? map.slug}, version ${map.version}`,
  upgrade: [],
};
