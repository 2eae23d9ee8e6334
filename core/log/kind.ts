/** What a kind of entry is made of. One module in `kinds/` a kind; the registry is `kinds/index.ts`. */
import type { JobEntry } from "./entry";
import type { JobFacts } from "./facts";

/** Why something is not written into the log: where, what is wrong, what to do. */
export interface Refusal {
  where: string;
  problem: string;
  remedy: string;
  /** The entry of another person that stands against it. */
  theirs?: JobEntry;
}

/** The data of an entry with who wrote it and when. */
export interface Stamped<Data> {
  data: Data;
  /** ISO 8601, UTC. */
  at: string;
  by: string;
  /** Identifier of the entry. */
  entry: string;
}

/** A value with who noted it and when. */
export interface Noted<T> {
  value: T;
  note: string;
  /** File of the job that holds a photo. */
  photo?: string;
  at: string;
  by: string;
  entry: string;
}

/** Brings stored data of one version to the next. */
export type Upgrade = (data: never) => unknown;

/**
 * A kind of entry.
 *
 * `Data` is what is stored. `Asked` is what a person asks for; the rest of the data is computed by `write`. `Slice` is
 * the part of the job's state that this kind brings, `Touched` the part that its fold changes.
 */
export type Kind<Name extends string, Data, Slice extends object = object, Asked = Data, Touched = Slice> = KindOf<
  Name,
  Data,
  Slice,
  Asked,
  Touched
> &
  // The check of an import asks again for what is stored.
  ([Data] extends [Asked] ? { readonly asked?: undefined } : { asked(data: Data): Asked });

interface KindOf<Name extends string, Data, Slice extends object, Asked, Touched> {
  readonly kind: Name;
  /** Its part of the state of a job in which nothing happened. */
  empty(): Slice;
  /** Changes the state by one entry that counts. */
  fold(state: Touched, entry: Stamped<Data>): void;
  /** What speaks against writing it now; null when nothing does. */
  check(job: JobFacts, asked: Asked): Refusal | null;
  /** What is stored: what was asked for and what the job can compute. */
  write(job: JobFacts, asked: Asked): Data;
  /**
   * What it says of which thing, for kinds that tick how something stands: of two devices' ticks of one thing that
   * which was done later counts.
   */
  says?(asked: Asked): Readonly<Record<string, unknown>>;
  /** The entry in a person's words, without who and when. */
  words(data: Data, job: JobFacts): string;
  /** Oldest first; the version of new entries is one more than their number. */
  readonly upgrade: readonly Upgrade[];
}

/** For kinds that store what was asked for and nothing else. */
export function asAsked<T>(_job: JobFacts, asked: T): T {
  return asked;
}

export function refuse(where: string, problem: string, remedy: string): Refusal {
  return { where, problem, remedy };
}

/** Refuses a name that the plan of the job does not know. */
export function unknown(what: string, id: string): Refusal {
  return refuse(
    what,
    `The plan of this job has no ${what} “${id}”.`,
    "Load the page again; the plan may have changed.",
  );
}

/** A value with the stamp of its entry. */
export function noted<T>(value: T, entry: Stamped<unknown>, note = ""): Noted<T> {
  return { value, note, at: entry.at, by: entry.by, entry: entry.entry };
}
