/** What a technician does with the control units of a car, each as a procedure that ends in a known state. */
import type { Reply } from "./tester";
import { IDENTIFICATION, refusalWords, request, SESSION } from "./uds";

/** What a procedure needs of the world. */
export interface Bench {
  ask(request: readonly number[]): Promise<Reply>;
  /** Supply in volt; null where nobody can tell. */
  volts(): Promise<number | null>;
  /** The person wants to stop; asked between two requests. */
  cancelled(): boolean;
  /** Key for a seed; null where this program has no rule for the unit. */
  key?(level: number, seed: readonly number[]): number[] | null;
  /** A step that begins, in words. */
  progress?(say: string): void;
}

/** How a procedure ended, and how the car stands then. */
export type Ended =
  | { kind: "done" }
  | { kind: "cancelled"; stands: string }
  | { kind: "failed"; say: string; remedy: string; stands: string };

/** Least supply while a unit is written, in volt; with a maintainer on it lies well above (common practice). */
const WRITE_VOLTS = 12.2;

const UNTOUCHED = "Nothing was written; the unit stands as it did.";

/** Records are read of so many stored codes; more only make the scan long. */
const MOST_RECORDS = 8;

/**
 * Identification, codes and what the unit keeps beside them. A unit that does not answer at all is not there, or not in
 * the gateway's list.
 *
 * @param watched codes are predicted for this unit, so it is asked which ones it knows at all
 */
export async function scanUnit(bench: Bench, watched = false): Promise<"answered" | "silent" | "cancelled"> {
  const isSilent = ({ kind }: Reply) => kind === "silence" || kind === "broken";
  let first = await bench.ask(request.readData(IDENTIFICATION.part));
  // A unit that is just waking up misses a question: silent is who says nothing twice. Common practice.
  if (isSilent(first) && !bench.cancelled()) first = await bench.ask(request.readData(IDENTIFICATION.part));
  if (isSilent(first)) return bench.cancelled() ? "cancelled" : "silent";
  if (bench.cancelled()) return "cancelled";
  await bench.ask(request.readData(IDENTIFICATION.software));
  if (bench.cancelled()) return "cancelled";
  const stored = await bench.ask(request.readCodes());
  const records = stored.kind === "positive" ? stored.data.slice(1) : [];
  for (let at = 0; at + 4 <= records.length && at < 4 * MOST_RECORDS; at += 4) {
    if (bench.cancelled()) return "cancelled";
    await bench.ask(request.codeRecords(records.slice(at, at + 3)));
  }
  if (watched && !bench.cancelled()) await bench.ask(request.supportedCodes());
  return "answered";
}

/** Reads words, each once. */
export async function readWords(bench: Bench, identifiers: readonly number[]): Promise<Ended> {
  for (const id of identifiers) {
    if (bench.cancelled()) return { kind: "cancelled", stands: UNTOUCHED };
    const reply = await bench.ask(request.readData(id));
    if (reply.kind !== "positive") return failed(reply, UNTOUCHED);
  }
  return { kind: "done" };
}

export interface Write {
  identifier: number;
  /** As the word stood when the change was planned. */
  before: readonly number[];
  after: readonly number[];
  /** Level of the seed where the unit wants a key. */
  access?: number;
}

/**
 * Writes one word: supply first, then the word is read once more (somebody else may have changed it), written, read back
 * and compared. Once it was sent nothing is cancelled any more before it was read back.
 */
export async function writeWord(bench: Bench, { identifier, before, after, access }: Write): Promise<Ended> {
  const low = await lowSupply(bench);
  if (low) return low;
  if (bench.cancelled()) return { kind: "cancelled", stands: UNTOUCHED };
  bench.progress?.("opening a session");
  const open = await bench.ask(request.session(SESSION.extended));
  if (open.kind !== "positive") return failed(open, UNTOUCHED);
  const locked = access === undefined ? null : await unlock(bench, access);
  if (locked) return locked;
  bench.progress?.("reading the word once more");
  const now = await bench.ask(request.readData(identifier));
  if (now.kind !== "positive") return failed(now, UNTOUCHED);
  if (!same(now.data, before))
    return {
      kind: "failed",
      say: "The word is no longer as it was when the change was planned.",
      remedy: "Somebody else wrote it. Look at the new plan and start again.",
      stands: UNTOUCHED,
    };
  if (bench.cancelled()) {
    await bench.ask(request.session(SESSION.default));
    return { kind: "cancelled", stands: UNTOUCHED };
  }
  // A unit that takes it stores no codes for what the writing itself disturbs; one that does not is written all the same.
  const quiet = (await bench.ask(request.codeSetting(false))).kind === "positive";
  bench.progress?.("writing");
  const written = await bench.ask(request.writeData(identifier, after));
  bench.progress?.("reading back");
  const back = await bench.ask(request.readData(identifier));
  if (quiet) await bench.ask(request.codeSetting(true));
  await bench.ask(request.session(SESSION.default));
  if (back.kind !== "positive") return { ...failed(back, NOT_KNOWN), stands: NOT_KNOWN };
  if (same(back.data, after)) return { kind: "done" };
  if (same(back.data, before))
    return written.kind === "positive"
      ? {
          kind: "failed",
          say: "The unit took the word and did not keep it.",
          remedy: "Ignition off for a minute, then read it again.",
          stands: UNTOUCHED,
        }
      : failed(written, UNTOUCHED);
  return {
    kind: "failed",
    say: "The word was read back as something else than was sent.",
    remedy: "Do not switch off. Write the saved word again, with the maintainer on.",
    stands: "The word stands as it was read back; the saved one can be restored.",
  };
}

/** Clears the codes of one unit. */
export async function clearCodes(bench: Bench): Promise<Ended> {
  if (bench.cancelled()) return { kind: "cancelled", stands: UNTOUCHED };
  const reply = await bench.ask(request.clearCodes());
  if (reply.kind !== "positive") return failed(reply, "The codes stand as they did.");
  await bench.ask(request.readCodes());
  return { kind: "done" };
}

const NOT_KNOWN =
  "The word was sent and could not be read back: how it stands is not known. Read it before anything else.";

async function lowSupply(bench: Bench): Promise<Ended | null> {
  const volts = await bench.volts();
  if (volts !== null && volts >= WRITE_VOLTS) return null;
  if (volts === null)
    return {
      kind: "failed",
      say: "The supply is not known.",
      remedy: `Measure at the battery with the maintainer on, and enter it; it must be ${WRITE_VOLTS} V at least.`,
      stands: UNTOUCHED,
    };
  return {
    kind: "failed",
    say: `The supply is ${volts.toFixed(1)} V; for writing it must be ${WRITE_VOLTS} V at least.`,
    remedy: "Connect a battery maintainer, then try again.",
    stands: UNTOUCHED,
  };
}

async function unlock(bench: Bench, level: number): Promise<Ended | null> {
  bench.progress?.("asking for access");
  const seed = await bench.ask(request.seed(level));
  if (seed.kind !== "positive") return failed(seed, UNTOUCHED);
  // A seed of zeros: it is open already (ISO 14229-1, from memory).
  if (seed.data.every((b) => b === 0)) return null;
  const key = bench.key?.(level, seed.data) ?? null;
  if (!key)
    return {
      kind: "failed",
      say: "The unit wants a key, and this program has no rule for it.",
      remedy: "This word is for the maker's own tool or people licensed for it.",
      stands: UNTOUCHED,
    };
  const opened = await bench.ask(request.key(level, key));
  return opened.kind === "positive" ? null : failed(opened, UNTOUCHED);
}

function failed(reply: Reply, stands: string): Extract<Ended, { kind: "failed" }> {
  if (reply.kind === "refused") return { kind: "failed", ...refusalWords(reply.code), stands };
  return {
    kind: "failed",
    say: reply.kind === "broken" ? `The conversation broke off (${reply.why}).` : "The unit does not answer.",
    remedy: "Check ignition, plug and supply; then scan again.",
    stands,
  };
}

function same(a: readonly number[], b: readonly number[]): boolean {
  return a.length === b.length && a.every((x, i) => x === b[i]);
}
