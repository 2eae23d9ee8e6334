import { messagesOf } from "../../../bus/hunt/found";
import { checkTranslation } from "../../../bus/translation/check";
import { OUTPUTS, type Translation } from "../../../bus/translation/translation";
import { asAsked, type Kind, refuse } from "../../kind";

export interface TranslationSlice {
  /** With the entry that wrote it; null while there is none. */
  translation: (Translation & { at: string; by: string; entry: string }) | null;
}

/** What the module of the job is to do with the messages of the car. */
export const translation: Kind<"bus.translation", Translation, TranslationSlice> = {
  kind: "bus.translation",
  empty: () => ({ translation: null }),
  fold(state, { data, at, by, entry }) {
    state.translation = { ...data, at, by, entry };
  },
  check(job, data) {
    const messages = messagesOf(job.state.signals, () => "");
    const [stop] = checkTranslation(data, { messages }).filter((p) => p.tone === "stop");
    return stop ? refuse(OUTPUTS[stop.output].name, stop.problem, stop.remedy) : null;
  },
  write: asAsked,
  words: ({ rules }) => `Translation for the module: ${rules.map((r) => OUTPUTS[r.output].name).join(", ") || "empty"}`,
  upgrade: [],
};
