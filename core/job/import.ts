import type { JobEntry } from "../log/entry";
import { kindNamed } from "../log/fold";
import { type Refusal, unknown } from "../log/kind";
import { CoreError } from "../model/errors";
import { Job, MissingDocument, type OpenedWith, type Outside, type PinnedDocument, pinsOf } from "./job";

/** A log that does not belong to the documents it came with. */
export class ImportError extends CoreError {}

/** Entries checked before others get their turn. */
const PORTION = 5;

/**
 * The job that a log from elsewhere makes of its documents.
 *
 * Every entry goes through the check of its kind on the job as the entries before it left it, as if it were pressed
 * now. What was written while the job had a kit or a radio that the file does not bring is taken as it is.
 *
 * @param others documents that the log names beside those of the job's end
 * @throws {ImportError} naming the entry; {CoreError} when the documents cannot be planned
 */
export async function replay(
  opened: OpenedWith,
  entries: readonly JobEntry[],
  currency: string,
  others: readonly PinnedDocument[] = [],
): Promise<Job> {
  const outside = outsideOf(opened, currency, others);
  let job = new Job(opened, [], outside);
  void job.plan;
  for (const [i, entry] of entries.entries()) {
    const refusal = check(job, entry);
    if (refusal) throw new ImportError(`entries[${i}] (${entry.kind})`, refusal.problem, refusal.remedy);
    job = job.with([entry]);
    if (i % PORTION === 0) await new Promise((resolve) => setTimeout(resolve));
  }
  void job.plan;
  return job;
}

function check(job: Job, entry: JobEntry): Refusal | null {
  if (pinsOf([entry]).some(({ kind, pin }) => !job.outside.document(kind, pin))) return null;
  try {
    const facts = job.facts(entry.at);
    // What was done cannot be warned of any more; a step only has to be one of the plan.
    const stepRefusal = (step: string) => (facts.step(step) === null ? unknown("step", step) : null);
    const kind = kindNamed(entry.kind);
    const asked = kind.asked?.(entry.data) ?? entry.data;
    // What was open then may be done by the end of the log.
    const openPoint = () => ({ text: "", level: "reason" as const, customer: false });
    const believed = { stepRefusal, openPoint, noPower: () => null, noFeedNeeded: () => null };
    return kind.check({ ...facts, ...believed }, asked);
  } catch (error) {
    if (error instanceof MissingDocument) return null;
    throw error;
  }
}

/** Photos and bus files stay where the file came from. */
function outsideOf(opened: OpenedWith, currency: string, others: readonly PinnedDocument[]): Outside {
  const brought = [opened.variant, opened.kit, ...others].filter((d) => d !== null);
  return {
    document: (kind, pin) =>
      brought.find((d) => d.document === kind && d.id === pin.slug && d.version === pin.version) ?? null,
    file: () => ({ name: "", what: "log" }),
    // The log is not here, so what was computed from it is believed, like everything of an imported job.
    proof: () => [],
    wish: (id) => id,
    currency,
  };
}
