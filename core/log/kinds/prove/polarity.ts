import { CORNER_NAMES, type Corner } from "../../../prove/corners";
import type { Fuller, Pair } from "../../../sound/polarity";
import { asAsked, type Kind } from "../../kind";
import { unknownContacts } from "./walk";

type PolarityData =
  | { by: "ear"; pair: Pair; fuller: Fuller }
  /** `sign`: of the pulse as recorded at this corner; 0: none was surely heard. */
  | { by: "microphone"; corner: Corner; sign: 1 | -1 | 0; likeness: number };

export interface PolaritySlice {
  /** Since contacts were last moved. */
  ear: Map<Pair, Fuller>;
  microphone: Map<Corner, 1 | -1 | 0>;
}

const FULLER: Record<Fuller, string> = {
  same: "fuller the same way",
  opposite: "fuller with one side turned round",
  alike: "no difference",
};

/** Which way loudspeakers are connected was heard. */
export const polarity: Kind<"prove.polarity", PolarityData, PolaritySlice> = {
  kind: "prove.polarity",
  empty: () => ({ ear: new Map(), microphone: new Map() }),
  fold(state, { data }) {
    if (data.by === "ear") state.ear.set(data.pair, data.fuller);
    else state.microphone.set(data.corner, data.sign);
  },
  check: unknownContacts,
  write: asAsked,
  words: (data) =>
    data.by === "ear"
      ? `Polarity of the ${data.pair} pair by ear: ${FULLER[data.fuller]}`
      : `Polarity ${CORNER_NAMES[data.corner]} by microphone: ${data.sign === 0 ? "no pulse surely heard" : data.sign > 0 ? "as played" : "turned round"} (${data.likeness.toFixed(2)})`,
  upgrade: [],
};
