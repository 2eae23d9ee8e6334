import type { Hum } from "../../../sound/polarity";
import { asAsked, type Kind, type Noted, noted } from "../../kind";

/** With the earth as it is, or with a ground lead added. */
export type GroundLead = "without" | "with";

interface HumData extends Hum {
  ground: GroundLead;
}

interface HumSlice {
  hum: Map<GroundLead, Noted<Hum>>;
}

/** The hum of the loudspeakers was measured by microphone. */
export const hum: Kind<"prove.hum", HumData, HumSlice> = {
  kind: "prove.hum",
  empty: () => ({ hum: new Map() }),
  fold(state, entry) {
    const { ground, ...measured } = entry.data;
    state.hum.set(ground, noted(measured, entry));
  },
  check: () => null,
  write: asAsked,
  words: ({ ground, hz, totalDb }) =>
    `Hum ${ground === "with" ? "with an extra ground lead" : "as it is"}: ${totalDb.toFixed(0)} dBFS at ${hz} Hz and its multiples`,
  upgrade: [],
};
