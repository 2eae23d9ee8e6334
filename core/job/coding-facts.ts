/** What the kinds of entries ask of the coding map of a job. */
import { candump } from "../bus/formats/candump";
import { readAs } from "../bus/formats/format";
import { evidenceOf } from "../coding/evidence";
import { type CodingMap, codedWords } from "../coding/map";
import { bytesFromHex, checkWord, wordProblem } from "../coding/word";
import type { JobFacts, WordFact } from "../log/facts";
import { type Refusal, refuse } from "../log/kind";
import { CoreError } from "../model/errors";
import { settingsOfWords } from "./coding";
import type { Job } from "./job";

type CodingFacts = Pick<JobFacts, "codingMap" | "busMap" | "mapClash" | "word" | "session">;

export function codingFacts(job: Job): CodingFacts {
  const map = () => job.codingMap;
  return {
    codingMap: () => map()?.title ?? null,
    busMap(pin) {
      const found = job.outside.document("busMap", pin);
      return found?.document === "busMap" ? found : null;
    },
    mapClash(kind, pin) {
      const found = job.outside.document(kind, pin);
      const { car } = job.opened;
      if ((found?.document !== "coding" && found?.document !== "busMap") || found.car === car.id) return null;
      return refuse(
        found.title,
        `It is for another car (${found.car}).`,
        `Take one of ${car.title}, or enter one in the library.`,
      );
    },
    word: (ref, hex) => wordFact(map(), ref, hex),
    session: (log) => sessionFact(map(), log),
  };
}

function wordFact(map: CodingMap | null, ref: string, hex = ""): WordFact | null {
  const found = map && codedWords(map).find((w) => w.ref === ref);
  if (!map || !found) return null;
  const name = `${found.unit.name}, ${found.word.name}`;
  let bytes: number[] = [];
  let refusal: Refusal | null = null;
  try {
    bytes = bytesFromHex(hex, name);
    checkWord(found.word, bytes, name);
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    refusal = refuse(error.where, `${error.where}: ${error.problem}`, error.remedy);
  }
  return { name, refusal, bytes, ...says(map, ref, refusal ? null : bytes) };
}

function sessionFact(map: CodingMap | null, log: string): ReturnType<CodingFacts["session"]> {
  const { frames, problems, badLines } = readAs(candump, new TextEncoder().encode(log));
  const [first] = problems;
  const refusal = first
    ? refuse(
        "session",
        `${badLines} lines of the log are no frames; the first is line ${first.line}.`,
        "Start the session again.",
      )
    : null;
  if (!map) return { refusal, units: [], words: [] };
  const { units, words } = evidenceOf(map, frames);
  return { refusal, units, words: words.map((w) => ({ ...w, ...says(map, w.word, w.bytes) })) };
}

/** What the bytes of one word say about settings of the model. */
function says(map: CodingMap, ref: string, bytes: readonly number[] | null): Pick<WordFact, "settings" | "about"> {
  const found = codedWords(map).find((w) => w.ref === ref);
  const places = found?.places ?? [];
  return {
    settings:
      bytes && found && !wordProblem(found.word, bytes) ? { ...settingsOfWords(map, new Map([[ref, bytes]])) } : {},
    about: places.flatMap((p) => p.field.setting ?? []),
  };
}
