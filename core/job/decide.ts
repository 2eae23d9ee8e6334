/** What a press means: entries to write, or why nothing is written. Pure; the database only compares versions. */
import type { Command, EntryKind, JobEntry } from "../log/entry";
import { kindNamed } from "../log/fold";
import { type Refusal, refuse } from "../log/kind";
import { despiteKey } from "../log/kinds/despite";
import { standWords } from "../log/kinds/strip/stands";
import { CoreError } from "../model/errors";
import { upperFirst } from "../model/labels";
import { type First, neededWords, type Person, Pressing, type Stop } from "./guards/guard";
import { guard } from "./guards/table";
import type { Job } from "./job";
import { overtaken, untilMoment } from "./overtaken";

/** One thing that a person asks to be written. */
export interface Asked {
  /** Identifier of the entry, made by the caller: the same press twice is one entry. */
  id: string;
  command: Command;
  /** When it was done, ISO 8601, UTC. */
  at: string;
}

export type Refused = {
  kind: "refused";
  /**
   * `closed`: the job takes nothing. `conflict`: another entry stands against it. `unsound`: it makes no sense here.
   * `unsafe`: not as the car stands. `asks`: the car has to stand otherwise, one tap says that it does. `reason`: only with
   * a reason.
   */
  because: "closed" | "conflict" | "unsound" | "unsafe" | "asks" | "reason";
  refusal: Refusal;
  /** What the guards say, for the last three. */
  stop?: Stopped;
};

/** What a guard says, and to which of the entries of a press. */
export type Stopped = Stop & { entry: string };

export type Decision =
  | {
      kind: "written";
      /** New entries, in the order of the press; those that stood in the log already are left out. */
      entries: JobEntry[];
      /** Identifiers that stood in the log already, with the same content. */
      repeated: string[];
      after: Job;
    }
  | Refused;

/** Kinds that a closed job still takes. */
const AFTER_CLOSING: readonly EntryKind[] = ["handover.reopen"];

const CLOSED = refuse("job", "The job is closed.", "Reopen it in Hand over before changing anything.");

/** So far may a clock be ahead, in minutes. */
const CLOCK_MIN = 1;

/**
 * Decides a press on a job in its present version: all of it or nothing. Each command is checked against the job as
 * the ones before it leave it, and against the guards of its kind; what can be computed is computed here.
 *
 * @param now the server's clock, ISO 8601, UTC: nothing was done later; left out where the press has just been made
 */
export function decide(job: Job, press: readonly Asked[], who: Person, now?: string): Decision {
  const entries: JobEntry[] = [];
  const repeated: string[] = [];
  let after = job;
  for (const asked of press) {
    const stored = after.entries.find((e) => e.id === asked.id);
    if (stored) {
      if (!isSame(stored, asked, who.name)) return refused("conflict", otherContent(asked.id, stored));
      repeated.push(asked.id);
      continue;
    }
    const decided = tooEarly(asked, now) ?? decideOne(after, asked, who);
    if ("kind" in decided && decided.kind === "refused") return decided;
    const entry = decided as JobEntry;
    const next = after.with([entry]);
    const problem = follows(after, next, entry.kind);
    if (problem) return problem;
    entries.push(entry);
    after = next;
  }
  return { kind: "written", entries, repeated, after };
}

/** Nothing was done later than now. */
function tooEarly({ at }: Asked, now: string | undefined): Refused | null {
  const ahead = now === undefined ? 0 : (Date.parse(at) - Date.parse(now)) / 60_000;
  return ahead > CLOCK_MIN
    ? refused(
        "unsound",
        refuse(
          "time",
          `It is dated ${Math.round(ahead)} min ahead of now.`,
          "Set the clock of the device right, then press again.",
        ),
      )
    : null;
}

function decideOne(job: Job, { id, command, at }: Asked, who: Person): JobEntry | Refused {
  if (job.state.closed && !AFTER_CLOSING.includes(command.kind)) return refused("closed", CLOSED);
  const kind = kindNamed(command.kind);
  const facts = job.facts(at);
  const refusal = overtaken(job, { id, command, at }) ?? kind.check(facts, command.data);
  if (refusal) return refused(refusal.theirs ? "conflict" : "unsound", refusal);
  // What arrives late is judged by the car as it stood when it was done.
  const stop = stopOf(job.asOf(untilMoment(at)), { id, command, at }, who);
  if (stop)
    return {
      ...refused(BECAUSE[stop.answer], refuse(stop.where, stop.problem, stop.remedy)),
      stop: { ...stop, entry: id },
    };
  return entryOf(job, { id, command, at }, who);
}

const BECAUSE = { asks: "asks", reason: "reason", refused: "unsafe" } as const;

/** A tap may itself want a tap before it: so many at most. */
const DEEPEST = 4;

/**
 * What the guards say to a press; null when it may be written. What a tap writes goes through the guards as well: it is
 * made whole here, so that one tap is enough, or refused with what refuses it.
 */
export function stopOf(job: Job, { id, command, at }: Asked, who: Person, deep = 0): Stop | null {
  const stop = guard(new Pressing(job, at, who, id), command);
  if (stop?.answer === "reason" && job.state.despite.has(despiteKey({ entry: id, guard: stop.guard }))) return null;
  if (stop?.answer !== "asks" || deep === DEEPEST) return stop;
  const first: First[] = [];
  let on = job;
  const write = (commands: readonly First[]) => {
    for (const one of commands) {
      on = on.with([entryOf(on, { id: `${id}/${deep}.${first.length}`, command: one, at }, who)]);
      first.push(one);
    }
  };
  for (const one of stop.first) {
    const below = stopOf(on, { id: `${id}/${deep}`, command: one, at }, who, deep + 1);
    if (below && below.answer !== "asks") return below;
    write(below ? [...below.first, one] : [one]);
  }
  const rest = stopOf(on, { id, command, at }, who, deep + 1);
  if (rest?.answer === "refused") return rest;
  if (rest?.answer === "asks") write(rest.first);
  const whole = joined(first);
  const [only] = whole;
  if (whole.length > 1 || only?.kind !== "strip.stands") return { ...stop, first: whole };
  const { sets } = only.data;
  return { ...stop, first: whole, say: upperFirst(standWords(sets)), remedy: neededWords(sets) };
}

/** What is said of the car in a row is one entry. */
function joined(commands: readonly First[]): First[] {
  const list: First[] = [];
  for (const command of commands) {
    const before = list.at(-1);
    if (command.kind === "strip.stands" && before?.kind === "strip.stands")
      list[list.length - 1] = { kind: "strip.stands", data: { sets: { ...before.data.sets, ...command.data.sets } } };
    else list.push(command);
  }
  return list;
}

function entryOf(job: Job, { id, command, at }: Asked, who: Person): JobEntry {
  const data = kindNamed(command.kind).write(job.facts(at), command.data);
  return { kind: command.kind, data, id, at, by: who.name } as JobEntry;
}

/** What an entry leaves must be a job that can be planned, and only closing closes, only reopening opens. */
function follows(before: Job, after: Job, kind: EntryKind): Refused | null {
  const turned = (before.state.closed === null) !== (after.state.closed === null);
  if (turned && kind !== "handover.close" && kind !== "handover.reopen")
    return refused(
      "unsound",
      refuse("log", "This would close or reopen the job by a side door.", "Close or reopen it in Hand over."),
    );
  try {
    void after.plan;
    return null;
  } catch (error) {
    if (error instanceof CoreError) return refused("unsound", refuse(error.where, error.problem, error.remedy));
    throw error;
  }
}

/** A repeated press is believed only when author and content are the same. */
function isSame(stored: JobEntry, { command }: Asked, by: string): boolean {
  return stored.kind === command.kind && stored.by === by && holds(stored.data, command.data);
}

/** True when everything asked for stands in what was stored; what was computed may be more. */
function holds(stored: unknown, asked: unknown): boolean {
  if (typeof asked !== "object" || asked === null) return stored === asked;
  if (typeof stored !== "object" || stored === null) return false;
  if (Array.isArray(asked))
    return Array.isArray(stored) && stored.length === asked.length && asked.every((a, i) => holds(stored[i], a));
  return Object.entries(asked).every(([k, v]) => v === undefined || holds((stored as Record<string, unknown>)[k], v));
}

function otherContent(id: string, stored: JobEntry): Refusal {
  return {
    ...refuse(
      `entry ${id}`,
      "This identifier stands in the log already, with another content or author.",
      "Load the page again and press anew.",
    ),
    theirs: stored,
  };
}

function refused(because: Refused["because"], refusal: Refusal): Refused {
  return { kind: "refused", because, refusal };
}
