import { statfsSync } from "node:fs";

/** A database with less than this cannot work. */
export const SCARCE_BYTES = 24_000_000;

/** Room that is left on the disk of a folder, for a user without privileges. */
export function freeBytes(folder) {
  const { bavail, bsize } = statfsSync(folder);
  return bavail * bsize;
}
