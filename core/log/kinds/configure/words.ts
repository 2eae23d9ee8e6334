/** What is known of the coded words of the car, from whatever source. */

/** A coded word at a moment. */
export interface WordEvent {
  /** As it stood; null when it was written and not read back: then it is not known. */
  bytes: readonly number[] | null;
  how: "read" | "written" | "differs" | "notReadBack" | "entered";
  at: string;
  by: string;
  entry: string;
}

/** A scan of a control unit. */
export interface UnitEvent {
  answered: boolean;
  part: string | null;
  software: string | null;
  codes: readonly { code: string; status: number; records?: string | undefined }[] | null;
  /** Codes that it knows at all; null when it was never asked. */
  supported: readonly string[] | null;
  /** When the codes were read last; empty when they never were. */
  codesAt: string;
  at: string;
}

export interface WordsSlice {
  /** By `unit.word`, oldest first. */
  words: Map<string, WordEvent[]>;
  /** Settings (`part.setting`) as coded words said them last. */
  coded: Map<string, string>;
  /** Last news of each control unit. */
  units: Map<string, UnitEvent>;
}

export function noWords(): WordsSlice {
  return { words: new Map(), coded: new Map(), units: new Map() };
}

/** Adds an event to the history of a word; `settings` is what the word says, empty when it is not known. */
export function addWord(
  state: WordsSlice,
  ref: string,
  event: WordEvent,
  says: { settings: Readonly<Record<string, string>>; about: readonly string[] },
): void {
  state.words.set(ref, [...(state.words.get(ref) ?? []), event]);
  for (const setting of says.about) state.coded.delete(setting);
  for (const [setting, value] of Object.entries(says.settings)) state.coded.set(setting, value);
}
