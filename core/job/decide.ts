/** What a press means: entries to write, or why nothing is written. Pure; the database only compares versions. */
import type { Command, EntryKind, JobEntry } from "../log/entry";
import { kindNamed } from "../log/fold";
import { type Refusal, refuse } from "../log/kind";
import { CoreError } from "../model/errors";
import type { Job } from "./job";

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
  /** `closed`: the job takes nothing. `conflict`: another entry stands against it. `unsound`: it makes no sense here. */
  because: "closed" | "conflict" | "unsound";
  refusal: Refusal;
};

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

/**
 * Decides a press on a job in its present version: all of it or nothing. Each command is checked against the job as
 * the ones before it leave it; what can be computed is computed here.
 *
 * @param by name of the person
 */
export function decide(job: Job, press: readonly Asked[], by: string): Decision {
  const entries: JobEntry[] = [];
  const repeated: string[] = [];
  let after = job;
  for (const asked of press) {
    const stored = after.entries.find((e) => e.id === asked.id);
    if (stored) {
      if (!isSame(stored, asked, by)) return refused("conflict", otherContent(asked.id, stored));
      repeated.push(asked.id);
      continue;
    }
    const decided = decideOne(after, asked, by);
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

function decideOne(job: Job, { id, command, at }: Asked, by: string): JobEntry | Refused {
  if (job.state.closed && !AFTER_CLOSING.includes(command.kind)) return refused("closed", CLOSED);
  const kind = kindNamed(command.kind);
  const facts = job.facts(at);
  const refusal = kind.check(facts, command.data);
  if (refusal) return refused(refusal.theirs ? "conflict" : "unsound", refusal);
  return { kind: command.kind, data: kind.write(facts, command.data), id, at, by } as JobEntry;
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
