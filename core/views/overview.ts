/** What every page of a job shows beside its own matter. */
import { isBlank } from "../job/blank";
import { jobCarState } from "../job/car-state";
import type { Role } from "../job/guards/guard";
import type { Job } from "../job/job";
import { stagesLeft } from "../job/order/stages";
import { lastDone } from "./last-done";

/** A job as the shop lists it. */
export interface JobRowView {
  id: string;
  number: number;
  title: string;
  customer: string;
  /** Version of its log. */
  version: number;
  importedBy: string | null;
  practice: boolean;
}

/**
 * @param person whose page it is
 * @param now ISO 8601, UTC
 * @param seed from which the identifiers of the page's entries are made
 */
export function overviewOf(
  { id, number, title, customer, version, importedBy, practice }: JobRowView,
  job: Job,
  person: { name: string; role: Role; readOnly: boolean },
  now: string,
  seed: string,
) {
  const { state, plan } = job;
  const { documents } = plan;
  return {
    job: { id, number, title, customer, version, closed: state.closed !== null, importedBy, practice },
    documents: { car: documents.car.title, variant: documents.variant.title, kit: documents.kit.title },
    kitChosen: !isBlank(documents.kit),
    next: job.next(now),
    stages: stagesLeft(job, now),
    car: jobCarState(job, now),
    workMinutes: state.workMinutes,
    lastDone: person.readOnly ? null : lastDone(job, person.name, now),
    seed,
    person: person.name,
    role: person.role,
    readOnly: person.readOnly,
  };
}
