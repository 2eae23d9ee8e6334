import { createContext, type ReactNode, use, useEffect, useRef, useState } from "react";
import { useParams } from "react-router";
import { useAppend, useJob } from "~/app/components/entry-form";
import { type Adapter, AdapterError, askUnit } from "~/core/diagnostics/ask";
import { type Bench, clearCodes, type Ended, readWords, scanUnit, writeWord } from "~/core/diagnostics/procedures";
import type { SlcanSpeed } from "~/core/diagnostics/slcan";
import { type TimedFrame, transcriptLog } from "~/core/diagnostics/transcript";
import type { SessionAct } from "~/core/log/kinds/configure/session";
import type { UnitView, WordView } from "~/core/views/coding";
import { standInKey } from "~/sim/key-rule";
import { SerialWay, StandInWay } from "./car-adapters";

export type Way = "standIn" | "adapter";

interface CarSession {
  /** How the car is reached; null while it is not. */
  way: Way | null;
  /** @param kbit speed of the bus, for an adapter */
  open(way: Way, kbit?: SlcanSpeed): void;
  /** Speed of the bus as the adapter was told. */
  kbit: SlcanSpeed;
  /** Supply as it was measured and entered, for an adapter that cannot measure; null before. */
  entered: number | null;
  setEntered(volts: number | null): void;
  close(): void;
  /** Turned on by the person for this session; before it nothing is sent. */
  sending: boolean;
  setSending(on: boolean): void;
  /** What runs now, in words, and how far it is. */
  running: { say: string; done: number; of: number } | null;
  /** How the last act ended. */
  ended: { tone: "good" | "watch" | "stop"; title: string; text: string } | null;
  /** Units as they answer during a scan. */
  heard: ReadonlyMap<string, "answered" | "silent">;
  scan(units: readonly UnitView[]): void;
  read(words: readonly WordView[], units: readonly UnitView[]): void;
  write(word: WordView, bytes: readonly number[], units: readonly UnitView[]): void;
  clear(units: readonly UnitView[]): void;
  cancel(): void;
}

const Session = createContext<CarSession | null>(null);

export function useCarSession(): CarSession {
  const session = use(Session);
  if (!session) throw new Error("useCarSession is for what stands inside CarSessionProvider");
  return session;
}

/** One conversation with the control units of the car of this job, shared by everything on the page. */
export function CarSessionProvider({ standIn, children }: { standIn: boolean; children: ReactNode }) {
  const { job = "" } = useParams();
  const { readOnly } = useJob();
  const { append, busy } = useAppend();
  const adapter = useRef<Adapter | null>(null);
  const cancelled = useRef(false);
  const [way, setWay] = useState<Way | null>(standIn ? "standIn" : null);
  const [kbit, setKbit] = useState<SlcanSpeed>(500);
  const [entered, setEntered] = useState<number | null>(null);
  const [sending, setSendingState] = useState(false);
  const [talking, setRunning] = useState<CarSession["running"]>(null);
  // What is proposed rests on what was just said: nothing further is pressed before that is in the log.
  const running = talking ?? (busy ? { say: "keeping what was said", done: 1, of: 1 } : null);
  const [ended, setEnded] = useState<CarSession["ended"]>(null);
  const [heard, setHeard] = useState<CarSession["heard"]>(new Map());
  useEffect(() => () => void adapter.current?.close(), []);

  const trouble = (error: unknown) => {
    const known = error instanceof AdapterError || error instanceof DOMException;
    if (!known) throw error;
    setEnded({ tone: "stop", title: "The way to the car is broken", text: error.message });
  };

  async function reach(): Promise<Adapter> {
    adapter.current ??= way === "standIn" ? new StandInWay(job) : null;
    if (!adapter.current) throw new AdapterError("The car is not connected. Connect the adapter first.");
    return adapter.current;
  }

  /** Runs one act; whatever was on the bus goes into the log of the job, however it ends. */
  async function run(
    act: SessionAct,
    of: number,
    work: (bench: (unit: UnitView) => Bench, at: (done: number, say: string) => void) => Promise<Ended>,
  ) {
    if (running) return;
    cancelled.current = false;
    setEnded(null);
    const frames: TimedFrame[] = [];
    let volts: number | null = null;
    const at = (done: number, say: string) => setRunning({ say, done, of });
    at(0, "connecting");
    try {
      const bus = await reach();
      volts = act === "write" ? ((await bus.volts()) ?? entered) : null;
      const bench = (unit: UnitView): Bench => ({
        ask: (request) => askUnit(bus, unit.address, request, (f) => frames.push(f)),
        volts: async () => (await bus.volts()) ?? entered,
        cancelled: () => cancelled.current,
        key: (level, seed) => (way === "standIn" ? standInKey(level, seed) : null),
        progress: (say) => setRunning((r) => r && { ...r, say }),
      });
      setEnded(endedWords(act, await work(bench, at)));
    } catch (error) {
      trouble(error);
    } finally {
      setRunning(null);
      if (frames.length > 0) append({ kind: "configure.session", data: { log: transcriptLog(frames, 0), act, volts } });
    }
  }

  const unitOf = (units: readonly UnitView[], word: WordView) => units.find((u) => u.id === word.unit);
  const session: CarSession = {
    way,
    kbit,
    entered,
    setEntered,
    open(wanted, speed = kbit) {
      setEnded(null);
      if (wanted === "standIn") return setWay("standIn");
      setKbit(speed);
      SerialWay.open(speed).then((serial) => {
        adapter.current = serial;
        setWay("adapter");
      }, trouble);
    },
    close() {
      void adapter.current?.close();
      adapter.current = null;
      setWay(null);
      setSendingState(false);
    },
    sending: sending && !readOnly,
    setSending(on) {
      setSendingState(on);
      if (adapter.current instanceof SerialWay) adapter.current.mode(on ? "send" : "listen").catch(trouble);
    },
    running,
    ended,
    heard,
    scan: (units) =>
      void run("scan", units.length, async (bench, at) => {
        setHeard(new Map());
        for (const [i, unit] of units.entries()) {
          at(i, unit.name);
          const result = await scanUnit(bench(unit), unit.watched);
          if (result === "cancelled" || cancelled.current)
            return { kind: "cancelled", stands: `${i} of ${units.length} units were scanned; nothing was written.` };
          setHeard((h) => new Map(h).set(unit.id, result));
        }
        return { kind: "done" };
      }),
    read: (words, units) =>
      void run("read", words.length, async (bench, at) => {
        for (const [i, word] of words.entries()) {
          const unit = unitOf(units, word);
          if (!unit) continue;
          at(i, word.title);
          const result = await readWords(bench(unit), [word.identifier]);
          if (result.kind !== "done") return result;
        }
        return { kind: "done" };
      }),
    write: (word, bytes, units) =>
      void run("write", 1, async (bench, at) => {
        const unit = unitOf(units, word);
        if (!unit || !word.stands)
          return {
            kind: "failed",
            say: "The word is not known.",
            remedy: "Read it first.",
            stands: "Nothing was written.",
          };
        at(0, "checking the supply");
        const access = word.access === null ? {} : { access: word.access };
        return writeWord(bench(unit), { identifier: word.identifier, before: word.stands, after: bytes, ...access });
      }),
    clear: (units) =>
      void run("clear", units.length, async (bench, at) => {
        for (const [i, unit] of units.entries()) {
          at(i, unit.name);
          const result = await clearCodes(bench(unit));
          if (result.kind !== "done") return result;
        }
        return { kind: "done" };
      }),
    cancel() {
      cancelled.current = true;
    },
  };
  return <Session value={session}>{children}</Session>;
}

const DONE: Readonly<Record<SessionAct, string>> = {
  scan: "Every unit was asked.",
  read: "Read.",
  write: "Written, and read back as it was sent.",
  clear: "Codes cleared and read again.",
};

function endedWords(act: SessionAct, ended: Ended): CarSession["ended"] {
  if (ended.kind === "done") return { tone: "good", title: DONE[act], text: "" };
  if (ended.kind === "cancelled") return { tone: "watch", title: "Stopped.", text: ended.stands };
  return { tone: "stop", title: ended.say, text: `${ended.stands} ${ended.remedy}` };
}
