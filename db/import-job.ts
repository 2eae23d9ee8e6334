import type { EntryBody } from "../core/job/entry";
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
  planJob(file.documents, foldJob(file.entries));
  const ids = new Map(file.entries.map((e) => [e.id, newId()]));
  if (ids.size !== file.entries.length)
    throw new ProfileError(
      "entries",
      "two entries have the same identifier.",
      "Export the job again from where it came.",
    );
  const { car, variant, kit } = await db.transaction(async (sql) => ({
    car: await saveProfile(sql, account.shopId, file.documents.car, account.name),
    variant: await saveProfile(sql, account.shopId, file.documents.variant, account.name),
    kit: await saveProfile(sql, account.shopId, file.documents.kit, account.name),
  }));
  const id = newId();
  await createJob(db, {
    id,
    shopId: account.shopId,
    title: file.job.title,
    customer: file.job.customer,
    carProfile: car.id,
    variantProfile: variant.id,
    kitProfile: kit.id,
    stage: "intake",
    nextAction: "",
    createdAt: new Date(),
  });
  for (const { id: old, at, by, ...body } of file.entries) {
    const renamed = (
      body.kind === "undo" ? { ...body, data: { entry: ids.get(body.data.entry) ?? body.data.entry } } : body
    ) as EntryBody;
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
