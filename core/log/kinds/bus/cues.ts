import type { Cue, Thing } from "../../../bus/hunt/cues";
import { asAsked, type Kind, refuse } from "../../kind";

interface CuesData {
  /** The log that was recorded meanwhile. */
  file: string;
  things: Thing[];
  /** In seconds from the first frame of the log, as near as it was known. */
  cues: Cue[];
}

export interface CuesSlice {
  /** What was done in each log, by its file; the last word counts. */
  cues: Readonly<Record<string, Pick<CuesData, "things" | "cues">>>;
}

/** What was done while a log was recorded, and when. */
export const cues: Kind<"bus.cues", CuesData, CuesSlice> = {
  kind: "bus.cues",
  empty: () => ({ cues: {} }),
  fold(state, { data: { file, things, cues } }) {
    state.cues = { ...state.cues, [file]: { things, cues } };
  },
  check(job, { file, things, cues }) {
    if (!job.state.files.some((f) => f.file === file && f.what === "log"))
      return refuse("log", "The log that these cues belong to is not stored with the job.", "Store the log first.");
    const wrong = cues.find((c) => !(c.fromS < c.toS) || !things.some((t) => t.id === c.thing));
    if (wrong)
      return refuse("cues", `The cue “${wrong.label}” ends before it begins, or belongs to nothing.`, "Give it again.");
    return null;
  },
  write: asAsked,
  words: ({ cues, things }) => `Recorded on cue: ${cues.length} cues for ${things.map((t) => t.name).join(", ")}`,
  upgrade: [],
};
