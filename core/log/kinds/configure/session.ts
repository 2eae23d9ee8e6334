import type { SessionFact } from "../../facts";
import { type Kind, refuse } from "../../kind";
import { noMap } from "./word";
import { addWord, type WordsSlice } from "./words";

export interface SessionData extends Omit<SessionFact, "refusal"> {
  /** Every frame, as a `candump -L` log. */
  log: string;
  /** What it was for. */
  act: SessionAct;
  /** Supply as it was measured before anything was written; null where nobody measured. */
  volts?: number | null | undefined;
}

export const SESSION_ACTS = ["scan", "read", "write", "clear"] as const;
export type SessionAct = (typeof SESSION_ACTS)[number];

/** A conversation with the control units. What came of it is read from its frames and from nothing else. */
export const session: Kind<
  "configure.session",
  SessionData,
  object,
  Pick<SessionData, "log" | "act" | "volts">,
  WordsSlice
> = {
  kind: "configure.session",
  empty: () => ({}),
  fold(state, { data, at, by, entry }) {
    for (const { unit, answered, part, software, codes, supported } of data.units) {
      const before = state.units.get(unit);
      state.units.set(unit, {
        answered,
        part: part ?? before?.part ?? null,
        software: software ?? before?.software ?? null,
        codes: codes ?? before?.codes ?? null,
        supported: supported ?? before?.supported ?? null,
        codesAt: codes ? at : (before?.codesAt ?? ""),
        at,
      });
    }
    for (const w of data.words) addWord(state, w.word, { bytes: w.bytes, how: w.how, at, by, entry }, w);
  },
  check(job, { log }) {
    if (!job.codingMap()) return noMap();
    const { refusal, units } = job.session(log);
    if (refusal) return refusal;
    return units.length > 0
      ? null
      : refuse("session", "No control unit of the coding map was asked.", "Scan the car, then try again.");
  },
  write(job, asked) {
    const { units, words } = job.session(asked.log);
    return { ...asked, units, words };
  },
  words({ act, units, words }, job) {
    const name = (ref: string) => job.word(ref)?.name ?? ref;
    const told = words.map((w) => `${name(w.word)} ${HOW[w.how]}`);
    if (act === "scan") {
      const there = units.filter((u) => u.answered);
      const codes = there.reduce((sum, u) => sum + (u.codes?.length ?? 0), 0);
      return `Control units scanned: ${there.length} of ${units.length} answered, ${codes} ${codes === 1 ? "code" : "codes"} stored`;
    }
    if (act === "clear")
      return `Fault codes cleared in ${units.filter((u) => u.cleared).length} of ${units.length} units`;
    return told.length > 0 ? told.join("; ") : "Session with the control units, nothing read";
  },
  upgrade: [],
};

const HOW: Readonly<Record<SessionData["words"][number]["how"], string>> = {
  read: "read",
  written: "written and read back",
  differs: "written, but read back as something else",
  notReadBack: "sent and not read back: how it stands is not known",
};
