import type { WordFact } from "../../facts";
import { type Kind, refuse, unknown } from "../../kind";
import { addWord, noWords, type WordsSlice } from "./words";

interface WordData {
  /** `unit.word`. */
  word: string;
  bytes: number[];
  settings: Record<string, string>;
  about: string[];
}

/** A coded word that was read with another tool and typed or pasted here. */
export const word: Kind<"configure.word", WordData, WordsSlice, { word: string; hex: string }> = {
  kind: "configure.word",
  empty: noWords,
  fold(state, { data, at, by, entry }) {
    addWord(state, data.word, { bytes: data.bytes, how: "entered", at, by, entry }, data);
  },
  check(job, { word, hex }) {
    if (!job.codingMap()) return noMap();
    const fact = job.word(word, hex);
    if (!fact) return unknown("coded word", word);
    return fact.refusal;
  },
  write(job, { word, hex }) {
    const { bytes, settings, about } = job.word(word, hex) as WordFact;
    return { word, bytes, settings, about };
  },
  asked: ({ word, bytes }) => ({ word, hex: bytes.map((b) => b.toString(16).padStart(2, "0")).join(" ") }),
  words: ({ word, bytes }, job) =>
    `${job.word(word)?.name ?? word} entered: ${bytes.map((b) => b.toString(16).toUpperCase().padStart(2, "0")).join(" ")}`,
  upgrade: [],
};

export function noMap() {
  return refuse(
    "coding map",
    "No coding map is taken for this job, so the bytes have no meaning yet.",
    "Take the coding map of the car first.",
  );
}
