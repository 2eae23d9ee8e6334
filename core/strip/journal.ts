/** What was done to the car, as the entries of the job tell it. */
import type { Fastener } from "../model/profile";

/** One thing done: a step of the way in, the same step on the way back, or a ritual. */
export interface Deed {
  step: string;
  direction: "in" | "back";
  /** ISO 8601, UTC. */
  at: string;
  by: string;
  entry: string;
}

/** A step that the plan did not have. */
export interface AddedStep {
  id: string;
  /** The step before which it had to be done; null for the end. */
  before: string | null;
  title: string;
  detail: string;
  tool?: string;
  panel?: string;
  fasteners?: Fastener[];
}

/** How a step was in the car at hand. */
export interface Differs {
  tool?: string;
  fasteners?: { group: number; count?: number; lengthMm?: number }[];
}

/** Entries of the Strip surface. */
export type StripBody =
  | { kind: "strip.step"; data: { step: string; direction: "in" | "back"; confirmed: string[] } }
  | { kind: "strip.skip"; data: { step: string; reason: string } }
  | { kind: "strip.add"; data: AddedStep }
  | { kind: "strip.want"; data: { step: string; wanted: boolean } }
  | { kind: "strip.split"; data: { step: string; parts: string[] } }
  | { kind: "strip.note"; data: { step: string; note: string; photo?: string; differs?: Differs } }
  | { kind: "strip.count"; data: { step: string; group: number; direction: "in" | "out"; count: number } }
  | { kind: "strip.small"; data: SmallPart }
  | { kind: "strip.gate"; data: { reason: string } }
  | { kind: "strip.maintainer"; data: { connected: boolean } };

/** A small part that is broken or missing and must be replaced. */
export interface SmallPart {
  step: string | null;
  what: string;
  state: "broken" | "lost";
  count: number;
}

interface Stamp {
  at: string;
  by: string;
  entry: string;
}

export interface StripJournal {
  deeds: Deed[];
  /** Hazards that a person confirmed, by step. */
  confirmed: Map<string, string[]>;
  skipped: Map<string, string>;
  added: AddedStep[];
  wanted: Set<string>;
  splits: Map<string, string[]>;
  notes: ({ step: string; note: string; photo?: string; differs?: Differs } & Stamp)[];
  /** Fasteners counted, by `step/group`. */
  counts: Map<string, { out?: number; in?: number }>;
  small: (SmallPart & Stamp)[];
  /** The bench test was passed over on purpose. */
  gate: ({ reason: string } & Stamp) | null;
  maintainer: boolean;
}

export function emptyJournal(): StripJournal {
  return {
    deeds: [],
    confirmed: new Map(),
    skipped: new Map(),
    added: [],
    wanted: new Set(),
    splits: new Map(),
    notes: [],
    counts: new Map(),
    small: [],
    gate: null,
    maintainer: false,
  };
}

/** Adds an entry to the journal. The same step twice in the same direction is a double tap, not a second deed. */
export function note(journal: StripJournal, body: StripBody, stamp: Stamp): void {
  switch (body.kind) {
    case "strip.step":
      return noteDeed(journal, body.data, stamp);
    case "strip.skip":
      journal.skipped.set(body.data.step, body.data.reason);
      return;
    case "strip.add":
      if (!journal.added.some((a) => a.id === body.data.id)) journal.added.push(body.data);
      return;
    case "strip.want":
      if (body.data.wanted) journal.wanted.add(body.data.step);
      else journal.wanted.delete(body.data.step);
      return;
    case "strip.split":
      journal.splits.set(body.data.step, body.data.parts);
      return;
    case "strip.note":
      journal.notes.push({ ...body.data, ...stamp });
      return;
    case "strip.count": {
      const key = `${body.data.step}/${body.data.group}`;
      journal.counts.set(key, { ...journal.counts.get(key), [body.data.direction]: body.data.count });
      return;
    }
    case "strip.small":
      journal.small.push({ ...body.data, ...stamp });
      return;
    case "strip.gate":
      journal.gate = { ...body.data, ...stamp };
      return;
    case "strip.maintainer":
      journal.maintainer = body.data.connected;
      return;
  }
}

function noteDeed(
  journal: StripJournal,
  data: { step: string; direction: "in" | "back"; confirmed: string[] },
  stamp: Stamp,
): void {
  const last = lastDeed(journal, data.step);
  if (last?.direction === data.direction || (!last && data.direction === "back")) return;
  journal.deeds.push({ step: data.step, direction: data.direction, ...stamp });
  // Off and on again: what was counted belongs to the time before.
  if (last && data.direction === "in")
    for (const key of [...journal.counts.keys()]) if (key.startsWith(`${data.step}/`)) journal.counts.delete(key);
  if (data.confirmed.length > 0) journal.confirmed.set(data.step, data.confirmed);
}

function lastDeed(journal: StripJournal, step: string): Deed | undefined {
  return journal.deeds.findLast((d) => d.step === step);
}

/** Steps that are off now: done on the way in and not back. */
export function offNow(journal: Pick<StripJournal, "deeds">): Set<string> {
  const off = new Set<string>();
  for (const d of journal.deeds) {
    off.delete(d.step);
    // Taken out and put in again, so that the set is in the order in which things were really done.
    if (d.direction === "in") off.add(d.step);
  }
  return off;
}

/** Steps that were done at any time. */
export function everDone(journal: Pick<StripJournal, "deeds">): Set<string> {
  return new Set(journal.deeds.map((d) => d.step));
}
