import type { JobFacts } from "../facts";
import { type Refusal, refuse } from "../kind";

/** Refuses a photo that the job does not have. */
export function missingPhoto(job: JobFacts, photo: string | undefined): Refusal | null {
  if (photo === undefined || job.file(photo)) return null;
  return refuse(
    "photo",
    "The photo of this entry is not stored with the job.",
    "Take it again and send the entry anew.",
  );
}
