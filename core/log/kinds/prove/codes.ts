import { type Kind, type Noted, noted } from "../../kind";

export interface CodesSlice {
  /** Fault codes as they were read after the work, as text; null while nobody has looked. An empty text is none. */
  codesAfter: Noted<string> | null;
}

/** What the fault memory says when the work is done. */
export const codes: Kind<"prove.codes", { text: string }, CodesSlice> = {
  kind: "prove.codes",
  empty: () => ({ codesAfter: null }),
  fold(state, entry) {
    state.codesAfter = noted(entry.data.text, entry);
  },
  check: () => null,
  write: (_, { text }) => ({ text: text.trim() }),
  words: ({ text }) =>
    text === ""
      ? "Fault codes after the work: none stored"
      : `Fault codes after the work: ${text.split(/\r?\n/).join("; ")}`,
  upgrade: [],
};
