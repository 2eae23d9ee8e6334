/**
 * The job log: everything that happens on a job is an entry, appended and never changed. The state of a job is what
 * folding its entries gives; undo is an entry that takes another one out of the fold.
 */
import type { KINDS } from "./kinds";
import type { Pause } from "./strip-journal";

type Kinds = typeof KINDS;
export type EntryKind = keyof Kinds;

/** What an entry of a kind stores. */
export type DataOf<K extends EntryKind> = ReturnType<Kinds[K]["write"]>;
/** What a person asks for to get an entry of a kind. */
export type AskedOf<K extends EntryKind> = Parameters<Kinds[K]["write"]>[1];

/** An entry without who and when. */
export type EntryBody = { [K in EntryKind]: { kind: K; data: DataOf<K> } }[EntryKind];
/** Entries of the Strip surface. */
export type StripBody = Extract<EntryBody, { kind: `strip.${string}` }>;
/** A press: what a person asks to be written. What the job can compute is not in it. */
export type Command = { [K in EntryKind]: { kind: K; data: AskedOf<K> } }[EntryKind];

export type JobEntry = EntryBody & {
  id: string;
  /** ISO 8601, UTC. */
  at: string;
  by: string;
};

type Meet<U> = (U extends unknown ? (x: U) => void : never) extends (x: infer I) => void ? I : never;
/** The state while it is being folded: the slices of all kinds. */
export type Draft = Meet<ReturnType<Kinds[EntryKind]["empty"]>>;

type Fixed<T> =
  T extends Map<infer K, infer V>
    ? ReadonlyMap<K, V>
    : T extends Set<infer V>
      ? ReadonlySet<V>
      : T extends (infer V)[]
        ? readonly V[]
        : T;

/** A job as its entries leave it. */
export type JobState = { readonly [K in keyof Draft]: Fixed<Draft[K]> } & {
  /** Minutes from entry to entry, long pauses left out. */
  readonly workMinutes: number;
  /** Long times in which nobody logged anything. */
  readonly pauses: readonly Pause[];
  /** When the last entry was done; null while there is none. */
  readonly lastAt: string | null;
};
