import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { z } from "zod";
import { LIBRARY_PHOTO_LIMIT_BYTES } from "../core/job/photo";
import { CoreError } from "../core/model/errors";
import { ProfileError, readProfile } from "./read";
import { PROFILE_KINDS, type Profile } from "./schema";

/** A bundle that cannot be taken: too many or too large files, names with paths. */
export class BundleError extends CoreError {}

const MAX_FILES = 2000;
const MAX_BYTES = 200_000_000;
const MAX_FILE_BYTES = 4_000_000;

/** Beside the profiles of a bundle: who wrote them and in how many closed jobs they were tried. */
export interface About {
  shop: string;
  profiles: { kind: Profile["document"]; id: string; version: number; by: string; closedJobs: number }[];
}

const ABOUT = "about.json";
const line = z.string().max(200);
const aboutSchema: z.ZodType<About> = z.object({
  shop: line,
  profiles: z
    .array(
      z.object({
        kind: z.enum(PROFILE_KINDS),
        id: line,
        version: z.int(),
        by: line,
        closedJobs: z.int().min(0),
      }),
    )
    .max(MAX_FILES),
});

/** Photos by the SHA-256 of what they hold. */
export type Photos = ReadonlyMap<string, Uint8Array>;

const PHOTO_ENDING = ".photo";

/** Many profiles as one zip; each file is a profile as it is exported alone, or a photo that one of them names. */
export function zipProfiles(profiles: readonly Profile[], about?: About, photos: Photos = new Map()): Uint8Array {
  const files = profiles.map((p) => [`${p.document}-${p.id}-v${p.version}.json`, p] as const);
  const all = about ? [[ABOUT, about] as const, ...files] : files;
  return zipSync(
    {
      ...Object.fromEntries(all.map(([name, content]) => [name, strToU8(JSON.stringify(content, null, 2))])),
      ...Object.fromEntries([...photos].map(([name, bytes]) => [`${name}${PHOTO_ENDING}`, bytes])),
    },
    { level: 6 },
  );
}

/**
 * Reads a bundle. Names are never used as paths; sizes are checked before anything is unpacked.
 *
 * @throws {BundleError} {ProfileError} naming the file and the place in it
 */
export function readBundle(bytes: Uint8Array): { profiles: Profile[]; about: About | null; photos: Photos } {
  let files = 0;
  let total = 0;
  const remedy = "Export a bundle from the library and compare; nothing was stored.";
  let unpacked: Record<string, Uint8Array>;
  try {
    unpacked = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (/[\\/]|\.\./.test(name))
          throw new BundleError(`file “${name}”`, "its name holds a path; a bundle has plain file names.", remedy);
        const isPhoto = name.endsWith(PHOTO_ENDING);
        if (!isPhoto && !name.endsWith(".json"))
          throw new BundleError(`file “${name}”`, "it is no .json file.", remedy);
        files++;
        total += originalSize;
        if (originalSize > MAX_FILE_BYTES)
          throw new BundleError(
            `file “${name}”`,
            `it has ${megabytes(originalSize)}; a profile has at most 4 MB.`,
            remedy,
          );
        if (isPhoto && originalSize > LIBRARY_PHOTO_LIMIT_BYTES)
          throw new BundleError(
            `file “${name}”`,
            `it has ${megabytes(originalSize)}; a photo has at most 2 MB.`,
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
  const { [ABOUT]: told, ...documents } = unpacked;
  const named = Object.entries(documents);
  return {
    profiles: named.filter(([name]) => !name.endsWith(PHOTO_ENDING)).map(readFile),
    about: told ? readAbout(told) : null,
    photos: new Map(
      named.flatMap(([name, content]) =>
        name.endsWith(PHOTO_ENDING) ? [[name.slice(0, -PHOTO_ENDING.length), content] as const] : [],
      ),
    ),
  };
}

/** What the other shop says of its profiles; the profiles count without it. */
function readAbout(content: Uint8Array): About | null {
  try {
    return aboutSchema.safeParse(JSON.parse(strFromU8(content))).data ?? null;
  } catch {
    return null;
  }
}

function readFile([name, content]: [string, Uint8Array]): Profile {
  try {
    return readProfile(strFromU8(content));
  } catch (error) {
    if (error instanceof CoreError) throw new ProfileError(`${name} › ${error.where}`, error.problem, error.remedy);
    throw error;
  }
}

function megabytes(bytes: number): string {
  return `${Math.round(bytes / 1_000_000)} MB`;
}

/** True for bytes that begin like a zip. */
export function isZip(bytes: Uint8Array): boolean {
  return bytes[0] === 0x50 && bytes[1] === 0x4b;
}
