/** Apart from the kept job itself: it needs the whole engine, which a page loads later. */
import { decide } from "../job/decide";
import { Job, ownStore, type PinnedKind, type PlanStore } from "../job/job";
import type { KeptJob } from "./kept-job";
import type { Waiting } from "./outbox";

/**
 * The job as the device knows it: the log of the server with everything on top that was done here and is not in it.
 * What the server has refused, or what does not go with the log any more, is left out until a person has looked at it.
 */
export function jobOnDevice(kept: KeptJob, waiting: readonly Waiting[], store: PlanStore = ownStore()): Job {
  const { others, currency } = kept;
  const outside = {
    document: (kind: PinnedKind, pin: { slug: string; version: number }) =>
      others.find((d) => d.document === kind && d.id === pin.slug && d.version === pin.version) ?? null,
    // A photo or a log stays where it was added; here its entry is enough.
    file: () => ({ name: "", what: "photo" as const }),
    proof: () => null,
    wish: (id: string) => kept.wishes.find((w) => w.id === id)?.name ?? null,
    currency,
  };
  const known = new Set(kept.entries.map((e) => e.id));
  let job = new Job(kept.opened, kept.entries, outside, store);
  for (const w of waiting) {
    if (known.has(w.id) || w.refused !== undefined) continue;
    const decision = decide(job, [{ id: w.id, command: w.body, at: w.at }], { name: w.by, role: kept.role });
    if (decision.kind === "written") job = decision.after;
  }
  return job;
}
