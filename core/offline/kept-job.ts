/** A whole job as a device keeps it, so that its surfaces go on without connection. */

import type { Wish } from "../fit/rank";
import type { Role } from "../job/guards/guard";
import type { OpenedWith, PinnedDocument } from "../job/job";
import type { JobEntry } from "../log/entry";
import type { JobRowView } from "../views/overview";

/** Form in which a job is kept now; one in another form is fetched again before it is used. */
export const KEPT_FORMAT = 3;

export interface KeptJob {
  format: typeof KEPT_FORMAT;
  row: JobRowView;
  opened: OpenedWith;
  /** Documents that the log names beside those the job was opened with. */
  others: PinnedDocument[];
  entries: JobEntry[];
  currency: string;
  /** Functions that can be wished for. */
  wishes: Wish[];
  person: string;
  role: Role;
  readOnly: boolean;
  /** Minutes of steps on the shop's closed jobs, by step. */
  measured: Record<string, number[]>;
}

/** What the server sends to a device that has the documents already. */
export type KeptNews = Omit<KeptJob, "opened" | "others" | "wishes"> & Partial<KeptJob>;

/** Names the documents of a kept job; two jobs of one name have the same. */
export function documentsOf({ opened, others }: Pick<KeptJob, "opened" | "others">): string {
  const all = [opened.car, opened.variant, opened.kit, ...others];
  return all.map((d) => (d ? `${d.id}@${d.version}` : "none")).join();
}

/** The copy of a device with what the server has sent for it. */
export function mergeKept(kept: KeptJob | null, news: KeptNews): KeptJob | null {
  if (news.opened && news.others && news.wishes) return news as KeptJob;
  return kept && { ...kept, ...news };
}

/** What a device has kept; null when there is none, or when another program has kept it. */
export function readKeptJob(kept: unknown): KeptJob | null {
  if (typeof kept !== "object" || kept === null || !("format" in kept)) return null;
  return kept.format === KEPT_FORMAT ? (kept as KeptJob) : null;
}
