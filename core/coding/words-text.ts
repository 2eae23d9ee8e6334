/** Coded words as a file: lines that a person reads, or JSON; both are read back. */
import { CoreError } from "../model/errors";
import type { CodedWord } from "./map";
import { bytesFromHex, hexFromBytes, wordProblem } from "./word";

/** A word as the coding map of the job names it. */
export interface NamedWord extends Pick<CodedWord, "identifier" | "length" | "checksum"> {
  /** `unit.word`. */
  ref: string;
  /** `Unit: word`. */
  title: string;
}

/** A word as it stands. */
export interface StandingWord extends NamedWord {
  /** Null when it is not known. */
  bytes: readonly number[] | null;
  /** ISO 8601, UTC; empty when it is not known. */
  at: string;
}

const FORMAT = "iteron-coded-words";

/** Lines `unit.word identifier: bytes`, what they are behind a `#`; words that are not known stand there as such. */
export function wordsText(title: string, words: readonly StandingWord[]): string {
  const lines = words.map((w) =>
    w.bytes
      ? `${w.ref} ${identifierHex(w)}: ${hexFromBytes(w.bytes)}  # ${w.title}, ${w.at}`
      : `# ${w.ref} ${identifierHex(w)}: not known, ${w.title}`,
  );
  return [`# Coded words: ${title}`, ...lines, ""].join("\n");
}

/** The same as JSON. */
export function wordsJson(title: string, words: readonly StandingWord[]): string {
  const rows = words.map((w) => ({
    word: w.ref,
    identifier: identifierHex(w),
    title: w.title,
    hex: w.bytes && hexFromBytes(w.bytes),
    at: w.at,
  }));
  return `${JSON.stringify({ format: FORMAT, formatVersion: 1, title, words: rows }, null, 2)}\n`;
}

export interface WordsRead {
  words: { ref: string; title: string; hex: string }[];
  problems: { line: number; problem: string }[];
}

/** More lines than all words of a car have. */
const MAX_LINES = 4000;

/**
 * Reads several words at once, from a saved file or as another tool shows them: one a line, named by `unit.word`, by
 * `Unit: word` or by its data identifier; the bytes in any spacing, going on in lines that begin with a blank.
 */
export function readWordsText(words: readonly NamedWord[], text: string): WordsRead {
  if (/^\s*\{/.test(text)) return readJson(words, text);
  const read: WordsRead = { words: [], problems: [] };
  const open: { line: number; word: NamedWord; hex: string }[] = [];
  const lines = text.split(/\r?\n/);
  if (lines.length > MAX_LINES)
    read.problems.push({ line: MAX_LINES + 1, problem: `Nothing is read from line ${MAX_LINES + 1} on.` });
  for (const [i, raw] of lines.slice(0, MAX_LINES).entries()) {
    const line = raw.replace(/(#|\/\/).*$/, "").trimEnd();
    if (line.trim() === "") continue;
    const last = open.at(-1);
    if (/^\s/.test(line) && last && /^[\s0-9a-fx,;:._-]+$/i.test(line)) {
      last.hex += ` ${line.trim()}`;
      continue;
    }
    const found = wordNamed(words, line.trim());
    if (typeof found === "string") read.problems.push({ line: i + 1, problem: found });
    else open.push({ line: i + 1, ...found });
  }
  for (const { line, word, hex } of open) take(read, line, word, hex);
  return read;
}

function readJson(words: readonly NamedWord[], text: string): WordsRead {
  const read: WordsRead = { words: [], problems: [] };
  let file: { format?: unknown; words?: unknown };
  try {
    file = JSON.parse(text);
  } catch {
    return { words: [], problems: [{ line: 1, problem: "It begins like JSON and is none. Save it again." }] };
  }
  if (file.format !== FORMAT || !Array.isArray(file.words))
    return {
      words: [],
      problems: [{ line: 1, problem: `It is JSON of another kind: its format is not “${FORMAT}”.` }],
    };
  for (const [i, row] of (file.words as { word?: unknown; hex?: unknown }[]).entries()) {
    const word = words.find((w) => w.ref === row?.word);
    const at = i + 1;
    if (!word) read.problems.push({ line: at, problem: `The coding map has no word “${String(row?.word)}”.` });
    else if (typeof row.hex === "string") take(read, at, word, row.hex);
    else if (row.hex !== null) read.problems.push({ line: at, problem: `${word.title} has no bytes.` });
  }
  return read;
}

function take(read: WordsRead, line: number, word: NamedWord, hex: string): void {
  const { ref, title } = word;
  if (read.words.some((w) => w.ref === ref)) {
    read.problems.push({ line, problem: `${title} stands there twice; the first one is read.` });
    return;
  }
  try {
    const bytes = bytesFromHex(hex, title);
    const wrong = wordProblem(word, bytes);
    if (wrong) read.problems.push({ line, problem: `${title}: ${wrong.problem}` });
    else read.words.push({ ref, title, hex: hexFromBytes(bytes) });
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    read.problems.push({ line, problem: `${title}: ${error.problem}` });
  }
}

/** The word that a line names, with the rest of it; what is wrong when it names none, or could be several. */
function wordNamed(words: readonly NamedWord[], line: string): { word: NamedWord; hex: string } | string {
  const plain = line.toLowerCase();
  const names = words.flatMap((word) => {
    const id = identifierHex(word).toLowerCase();
    const of = (name: string) =>
      [`${name} 0x${id}`, `${name} ${id}`, name].map((n) => ({ word, name: n.toLowerCase() }));
    return [...of(word.ref), ...of(word.title), { word, name: `0x${id}` }, { word, name: id }];
  });
  const fits = names.filter(({ name }) => plain.startsWith(name) && !/^[a-z0-9.]/i.test(plain.slice(name.length)));
  const longest = Math.max(0, ...fits.map((f) => f.name.length));
  const best = fits.filter((f) => f.name.length === longest);
  const [first] = best;
  if (!first) return `“${line.slice(0, 40)}” names no word of the coding map.`;
  if (new Set(best.map((b) => b.word.ref)).size > 1)
    return `${identifierHex(first.word)} is the identifier of several words: ${best.map((b) => b.word.title).join(", ")}. Name the unit.`;
  return { word: first.word, hex: line.slice(longest).replace(/^[\s:=]+/, "") };
}

function identifierHex({ identifier }: Pick<NamedWord, "identifier">): string {
  return identifier.toString(16).toUpperCase().padStart(4, "0");
}
