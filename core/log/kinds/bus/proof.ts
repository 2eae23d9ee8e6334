import type { OutputProof } from "../../../bus/translation/proof";
import { OUTPUTS } from "../../../bus/translation/translation";
import { type Kind, refuse } from "../../kind";

interface ProofData {
  /** The log that was replayed. */
  file: string;
  outputs: OutputProof[];
  /** The entry of the translation that was replayed. */
  translation: string;
}

export interface ProofSlice {
  /** The last proof; it counts while the translation is the same. */
  proof: (ProofData & { at: string; by: string }) | null;
}

/** The translation was replayed over a log that was not used for finding, and held against its cues. */
export const proof: Kind<"bus.proof", ProofData, ProofSlice, { file: string }> = {
  kind: "bus.proof",
  empty: () => ({ proof: null }),
  fold(state, { data, at, by }) {
    state.proof = { ...data, at, by };
  },
  check(job, { file }) {
    const { state } = job;
    if (!state.translation) return refuse("translation", "There is no translation yet.", "Write it first.");
    if (!state.cues[file])
      return refuse("log", "It is not known what was done in this log.", "Record on cue, or give the cues of the log.");
    if (state.signals.some((s) => s.file === file))
      return refuse(
        "log",
        "Signals were found in this log; what was found in it always fits it.",
        "Record once more and prove it on that.",
      );
    const found = job.proof(file);
    if (found === null)
      return refuse("proof", "Signals, translation or cues have changed meanwhile.", "Prove it again.");
    return found === "same content"
      ? refuse("log", "This is the log in which the signals were found, under another name.", "Record once more.")
      : null;
  },
  write(job, { file }) {
    const found = job.proof(file);
    return {
      file,
      outputs: found === null || found === "same content" ? [] : [...found],
      translation: job.state.translation?.entry ?? "",
    };
  },
  words({ outputs }) {
    const tried = outputs.filter((o) => o.cued > 0);
    const failed = tried.filter((o) => !o.passed).map((o) => OUTPUTS[o.output].name);
    return failed.length === 0
      ? `Translation proven on another log: ${tried.map((o) => OUTPUTS[o.output].name).join(", ")}`
      : `Translation tried on another log; not as it should: ${failed.join(", ")}`;
  },
  upgrade: [],
};
