import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { CoreError } from "../core/model/errors";
import { ProfileError, readProfile } from "./read";
import type { Profile } from "./schema";

/** A bundle that cannot be taken: too many or too large files, names with paths. */
export class BundleError extends CoreError {}

const MAX_FILES = 2000;
const MAX_BYTES = 200_000_000;
const MAX_FILE_BYTES = 4_000_000;

/** Many profiles as one zip; each file is a profile as it is exported alone. */
export function zipProfiles(profiles: readonly Profile[]): Uint8Array {
  return zipSync(
    Object.fromEntries(
      profiles.map((p) => [`${p.document}-${p.id}-v${p.version}.json`, strToU8(JSON.stringify(p, null, 2))]),
    ),
    { level: 6 },
  );
}

/**
 * Reads a bundle. Names are never used as paths; sizes are checked before anything is unpacked.
 *
 * @throws {BundleError} {ProfileError} naming the file and the place in it
 */
export function readBundle(bytes: Uint8Array): Profile[] {
  let files = 0;
  let total = 0;
  const remedy = "Export a bundle from the library and compare; nothing was stored.";
  let unpacked: Record<string, Uint8Array>;
  try {
    unpacked = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (/[\\/]|\.\./.test(name))
          throw new BundleError(`file “${name}”`, "its name holds a path; a bundle has plain file names.", remedy);
        if (!name.endsWith(".json")) throw new BundleError(`file “${name}”`, "it is no .json file.", remedy);
        files++;
        total += originalSize;
        if (originalSize > MAX_FILE_BYTES)
          throw new BundleError(
            `file “${name}”`,
            `it has ${megabytes(originalSize)}; a profile has at most 4 MB.`,
            remedy,
          );
        if (files > MAX_FILES) throw new BundleError("bundle", `it has more than ${MAX_FILES} files.`, remedy);
        if (total > MAX_BYTES)
          throw new BundleError("bundle", `unpacked it would have more than ${megabytes(MAX_BYTES)}.`, remedy);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof CoreError) throw error;
    throw new BundleError("bundle", `it is no zip file (${(error as Error).message}).`, remedy);
  }
  return Object.entries(unpacked).map(([name, content]) => {
    try {
      return readProfile(strFromU8(content));
    } catch (error) {
      if (error instanceof CoreError) throw new ProfileError(`${name} › ${error.place}`, error.problem, error.remedy);
      throw error;
    }
  });
}

function megabytes(bytes: number): string {
  return `${Math.round(bytes / 1_000_000)} MB`;
}

/** True for bytes that begin like a zip. */
export function isZip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x50 && bytes[1] === 0x4b;
}
