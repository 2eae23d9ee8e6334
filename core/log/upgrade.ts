import { CoreError } from "../model/errors";
import type { EntryKind } from "./entry";
import { kindNamed } from "./fold";
import { KINDS } from "./kinds";

/** An entry that this version of the program cannot read: of an unknown kind, or written by a newer one. */
export class EntryVersionError extends CoreError {}

export function isEntryKind(kind: string): kind is EntryKind {
  return Object.hasOwn(KINDS, kind);
}

/** Version in which entries of a kind are written now. */
export function versionOf(kind: EntryKind): number {
  return kindNamed(kind).upgrade.length + 1;
}

/**
 * Brings the data of a stored entry to the present version of its kind.
 *
 * @param version in which it was written, 1 or more
 * @throws {EntryVersionError} for an unknown kind and for a version that is yet to come
 */
export function upgradeEntry(kind: string, version: number, data: unknown): { kind: EntryKind; data: unknown } {
  if (!isEntryKind(kind) || version > versionOf(kind))
    throw new EntryVersionError(
      `entry ${kind}, version ${version}`,
      "it was written by a newer Iteron than this one.",
      "Bring this server up to date, then open the job again. Nothing is lost.",
    );
  const steps = kindNamed(kind).upgrade.slice(version - 1);
  return { kind, data: steps.reduce((d, step) => step(d as never), data) };
}
