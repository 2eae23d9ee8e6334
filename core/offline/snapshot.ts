import { renamedFields } from "../library/renamed-fields";
import type { JobEntry } from "../log/entry";
import { NEVER_QUIET } from "../strip/car-state";
import type { StripInput } from "../strip/view";

/** Form in which a snapshot is kept now; it changes when an older one could not be read as it is. */
export const SNAPSHOT_FORMAT = 4;

/** Everything the step-by-step mode computes from; small enough to be kept on a device. */
export interface HandsSnapshot {
  format: typeof SNAPSHOT_FORMAT;
  job: { id: string; number: number; title: string };
  version: number;
  input: StripInput;
  /** Entries of the Strip surface and undos, in their order. */
  entries: JobEntry[];
  person: string;
  readOnly: boolean;
  now: string;
}

type Stored = Omit<HandsSnapshot, "format"> & { format?: number };

/** Brings a snapshot of one format to the next. */
const UPGRADES: readonly ((old: Stored) => Stored)[] = [
  // Format 1 did not say its format.
  (old) => ({ ...old, format: 2 }),
  // Format 2 had earlier names in the strip plan.
  (old) => ({ ...old, input: renamedFields(old.input) as StripInput, format: 3 }),
  // Format 3 knew the key from the tries of the proving.
  (old) => ({ ...old, input: { ...old.input, quiet: NEVER_QUIET }, format: 4 }),
];

/**
 * A snapshot as a device has kept it, in the present form. Null when there is none, or when a newer program has written
 * it: then only the server can say how the job stands.
 */
export function readSnapshot(kept: unknown): HandsSnapshot | null {
  if (typeof kept !== "object" || kept === null || !("input" in kept) || !("entries" in kept)) return null;
  const stored = kept as Stored;
  const format = stored.format ?? 1;
  if (format > SNAPSHOT_FORMAT) return null;
  return UPGRADES.slice(format - 1).reduce((s, step) => step(s), stored) as HandsSnapshot;
}
