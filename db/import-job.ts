import { noKit, noVariant } from "../core/job/blank";
import type { DocumentPin, EntryBody } from "../core/job/entry";
import { planJob } from "../core/job/plan";
import { foldJob } from "../core/job/state";
import type { JobFile } from "../profiles/job";
import { ProfileError } from "../profiles/read";
import type { Account } from "./accounts";
import type { Database } from "./database";
import { newId } from "./ids";
import { appendEntry, createJob } from "./jobs";
import { saveProfile } from "./profiles";

/**
 * Stores an exported job as a new job of the person's shop: its documents join the library if they are new, every
 * entry gets a new identifier (undo entries follow). Nothing is stored when the documents cannot be planned.
 *
 * @returns the identifier of the new job
 * @throws {CoreError} with place and remedy
 */
export async function importJob(db: Database, account: Account, file: JobFile): Promise<string> {
  const { documents } = file;
  planJob(
    { car: documents.car, variant: documents.variant ?? noVariant(documents.car), kit: documents.kit ?? noKit() },
    foldJob(file.entries),
  );
  const ids = new Map(file.entries.map((e) => [e.id, newId()]));
  if (ids.size !== file.entries.length)
    throw new ProfileError(
      "entries",
      "two entries have the same identifier.",
      "Export the job again from where it came.",
    );
  const { car, variant, kit } = await db.transaction(async (sql) => ({
    car: await saveProfile(sql, account.shopId, documents.car, account.name),
    variant: documents.variant && (await saveProfile(sql, account.shopId, documents.variant, account.name)),
    kit: documents.kit && (await saveProfile(sql, account.shopId, documents.kit, account.name)),
  }));
  const id = newId();
  await createJob(db, {
    id,
    shopId: account.shopId,
    title: file.job.title,
    customer: file.job.customer,
    carProfile: car.id,
    variantProfile: variant?.id ?? null,
    kitProfile: kit?.id ?? null,
    stage: "intake",
    nextAction: "",
    createdAt: new Date(),
  });
  for (const { id: old, at, by, ...body } of file.entries) {
    const renamed = renumbered(body as EntryBody, ids, [variant, kit]);
    await appendEntry(db, account.shopId, id, {
      id: ids.get(old) ?? newId(),
      body: renamed,
      at: new Date(at),
      byName: by,
      accountId: null,
    });
  }
  return id;
}

/** Entries name other entries and document versions; both have other names in this shop. */
function renumbered(
  body: EntryBody,
  ids: ReadonlyMap<string, string>,
  stored: readonly ({ slug: string; version: number } | null)[],
): EntryBody {
  const here = (pin: DocumentPin): DocumentPin => ({
    slug: pin.slug,
    version: stored.find((s) => s?.slug === pin.slug)?.version ?? pin.version,
  });
  if (body.kind === "undo") return { ...body, data: { entry: ids.get(body.data.entry) ?? body.data.entry } };
  if (body.kind === "intake.variant") return { ...body, data: { ...body.data, variant: here(body.data.variant) } };
  if (body.kind === "fit.kit") return { ...body, data: { ...body.data, kit: here(body.data.kit) } };
  return body;
}
