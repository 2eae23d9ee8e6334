import { replay } from "../core/job/import";
import type { Job } from "../core/job/job";
import type { EntryBody, JobEntry } from "../core/log/entry";
import type { DocumentPin } from "../core/log/kinds/fit/kit";
import type { JobFile } from "../profiles/job";
import { ProfileError } from "../profiles/read";
import type { Profile } from "../profiles/schema";
import type { Account } from "./accounts";
import { insertEntries } from "./append";
import type { Database } from "./database";
import { newId } from "./ids";
import { insertJob, withNumber } from "./jobs";
import { saveProfile } from "./profiles";

/**
 * Stores an exported job as a new job of the person's shop, in one transaction: its documents join the library if they
 * are new, every entry gets a new identifier (undo entries follow), and the job says who imported it. Nothing is stored
 * when the documents cannot be planned or an entry does not belong to them.
 *
 * @returns the identifier of the new job
 * @throws {CoreError} with place and remedy
 */
export async function importJob(db: Database, account: Account, file: JobFile): Promise<string> {
  const ids = new Map(file.entries.map((e) => [e.id, newId()]));
  if (ids.size !== file.entries.length)
    throw new ProfileError(
      "entries",
      "two entries have the same identifier.",
      "Export the job again from where it came.",
    );
  const job = await replay(opened(file), file.entries, account.currency, file.documents.others);
  const id = newId();
  await withNumber(() =>
    db.transaction(async (sql) => {
      const { car, variant, kit, others } = file.documents;
      const store = async <P extends Profile>(given: P): Promise<Stored> => ({
        given,
        ...(await saveProfile(sql, account.shopId, given, account.name)),
      });
      const more: Stored[] = [];
      for (const document of others) more.push(await store(document));
      const stored = {
        car: await store(car),
        variant: variant && (await store(variant)),
        kit: kit && (await store(kit)),
      };
      const all = [stored.variant, stored.kit, ...more].filter((s) => s !== null);
      const entries = file.entries.map((e) => renamed(e, ids, all));
      await insertJob(sql, {
        id,
        shopId: account.shopId,
        title: file.job.title,
        customer: file.job.customer,
        carProfile: stored.car.id,
        variantProfile: stored.variant?.id ?? null,
        kitProfile: stored.kit?.id ?? null,
        createdAt: new Date(),
        version: entries.length,
        closedAt: job.state.closed ? new Date(job.state.closed.at) : null,
        importedBy: account.name,
        line: job.boardLine(new Date().toISOString()),
      });
      await insertEntries(sql, account.shopId, id, 0, entries, null);
    }),
  );
  return id;
}

/** A document of the file with its row in this shop. */
type Stored = Awaited<ReturnType<typeof saveProfile>> & { given: Profile };

function opened({ documents }: JobFile): Job["opened"] {
  return { car: documents.car, variant: documents.variant, kit: documents.kit };
}

/** Entries name other entries and document versions; both have other names in this shop. */
function renamed(
  { id, at, by, ...body }: JobEntry,
  ids: ReadonlyMap<string, string>,
  stored: readonly Stored[],
): JobEntry {
  return { ...renamedBody(body as EntryBody, ids, stored), id: ids.get(id) ?? newId(), at, by };
}

function renamedBody(body: EntryBody, ids: ReadonlyMap<string, string>, stored: readonly Stored[]): EntryBody {
  const here = ({ slug, version }: DocumentPin): DocumentPin => ({
    slug,
    version: stored.find((s) => s.slug === slug && s.given.version === version)?.version ?? version,
  });
  if (body.kind === "undo") return { ...body, data: { entry: ids.get(body.data.entry) ?? body.data.entry } };
  if (body.kind === "intake.variant") return { ...body, data: { ...body.data, variant: here(body.data.variant) } };
  if (body.kind === "fit.kit") return { ...body, data: { ...body.data, kit: here(body.data.kit) } };
  if (body.kind === "bus.map") return { ...body, data: { ...body.data, map: here(body.data.map) } };
  if (body.kind === "configure.map") return { ...body, data: { map: here(body.data.map) } };
  return body;
}
