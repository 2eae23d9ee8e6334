/** A job with its photos and logs as one zip: `job.json` as it is exported alone, and `files/IDENTIFIER`. */
import { strFromU8, unzipSync } from "fflate";
import { CoreError } from "../core/model/errors";
import { BundleError, isZip } from "./bundle";
import type { JobFile } from "./job";
import { readJobFile } from "./read";

export const JOB_JSON = "job.json";
export const FILES = "files/";
/** Unpacked: a job with many long logs is larger; those stay where they are. */
const MAX_BYTES = 400_000_000;
const MAX_FILES = 2001;

export interface JobBundle {
  file: JobFile;
  /** Bytes by identifier of the file. */
  contents: ReadonlyMap<string, Uint8Array>;
}

/** Reads an exported job, alone or with its files. @throws {CoreError} with place and remedy */
export function readJobBundle(bytes: Uint8Array): JobBundle {
  if (!isZip(bytes)) {
    const file = readJobFile(new TextDecoder().decode(bytes));
    if (file.files.length > 0)
      throw new BundleError("files", "the photos and logs that it names are not with it.", "Take the zip of the job.");
    return { file, contents: new Map() };
  }
  const unpacked = unzipped(bytes);
  const { [JOB_JSON]: job, ...rest } = unpacked;
  if (!job) throw new BundleError("bundle", `there is no ${JOB_JSON} in it.`, REMEDY);
  const contents = new Map(Object.entries(rest).map(([name, content]) => [name.slice(FILES.length), content]));
  return { file: readJobFile(strFromU8(job)), contents };
}

const REMEDY = "Export the job from Hand over and compare; nothing was stored.";

function unzipped(bytes: Uint8Array): Record<string, Uint8Array> {
  let [files, total] = [0, 0];
  try {
    return unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        if (name !== JOB_JSON && !/^files\/[0-9a-f-]{36}$/.test(name))
          throw new BundleError(`file “${name}”`, "it belongs to no exported job.", REMEDY);
        files++;
        total += originalSize;
        if (files > MAX_FILES || total > MAX_BYTES)
          throw new BundleError("bundle", `unpacked it would have more than ${MAX_BYTES / 1e6} MB.`, REMEDY);
        return true;
      },
    });
  } catch (error) {
    if (error instanceof CoreError) throw error;
    throw new BundleError("bundle", `it is no zip file (${(error as Error).message}).`, REMEDY);
  }
}
