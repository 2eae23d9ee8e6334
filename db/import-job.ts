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
import { complete, type NewFile, removeContent, type StagedContent, stageContent } from "./files";
import { newId } from "./ids";
import { importedFrom, insertJob, withNumber } from "./jobs";
import { lockImports, saveProfile } from "./profiles";

/** The same file was brought in before. */
export class ImportedBefore extends Error {
  constructor(readonly known: { id: string; number: number }) {
    super(`This file was brought in before, as job ${known.number}.`);
  }
}

/**
 * Stores an exported job as a new job of the person's shop, in one transaction: its documents join the library beside
 * those that are there, every entry and file gets a new identifier, and the job says who imported it. Nothing is stored
 * when the documents cannot be planned or an entry does not belong to them.
 *
 * @param sha256 of the file as it came
 * @param contents photos and logs that came with it, by their identifiers
 * @param again it is meant although the file was brought in before
 * @returns the identifier of the new job
 * @throws {CoreError} with place and remedy; {ImportedBefore}
 */
export async function importJob(
  db: Database,
  account: Account,
  file: JobFile,
  sha256: Uint8Array,
  { contents, again }: { contents: ReadonlyMap<string, Uint8Array>; again: boolean },
): Promise<string> {
  const ids = new Map(file.entries.map((e) => [e.id, newId()]));
  if (ids.size !== file.entries.length)
    throw new ProfileError(
      "entries",
      "two entries have the same identifier.",
      "Export the job again from where it came.",
    );
  const job = await replay(opened(file), file.entries, account.currency, file.documents.others);
  const id = newId();
  const staged: (StagedContent & Pick<NewFile, "id" | "name" | "what">)[] = [];
  try {
    for (const { id: old, name, what } of file.files) {
      const bytes = contents.get(old);
      if (!bytes) throw new ProfileError(`files › ${name}`, "its bytes are missing.", "Export the job again.");
      ids.set(old, newId());
      const content = await stageContent(db, account.shopId, once(bytes), bytes.length);
      staged.push({ id: ids.get(old) ?? "", name, what, ...content });
    }
    await store();
  } catch (error) {
    for (const { contentId } of staged) await removeContent(db, contentId);
    throw error;
  }
  return id;

  async function store() {
    await withNumber(() =>
      db.transaction(async (sql) => {
        // Two who bring the same file in at once make one job of it.
        await lockImports(sql, account.shopId);
        const known = again ? null : await importedFrom(sql, account.shopId, sha256);
        if (known) throw new ImportedBefore(known);
        const { car, variant, kit, others } = file.documents;
        const store = async <P extends Profile>(given: P): Promise<Stored> => ({
          given,
          ...(await saveProfile(sql, account.shopId, given, account.name, { beside: true })),
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
          importSha256: sha256,
          line: job.boardLine(new Date().toISOString()),
        });
        for (const { contentId, bytes, sha256, ...named } of staged)
          await complete(
            sql,
            { ...named, shopId: account.shopId, jobId: id, accountId: account.id },
            contentId,
            bytes,
            sha256,
          );
        await insertEntries(sql, account.shopId, id, 0, entries, null);
      }),
    );
  }
}

async function* once(bytes: Uint8Array) {
  yield bytes;
}

/** A document of the file with its row in this shop. */
type Stored = Awaited<ReturnType<typeof saveProfile>> & { given: Profile };

function opened({ documents }: JobFile): Job["opened"] {
  return { car: documents.car, variant: documents.variant, kit: documents.kit };
}

/** Entries name other entries, files and document versions; all have other names in this shop. */
function renamed(
  { id, at, by, ...body }: JobEntry,
  ids: ReadonlyMap<string, string>,
  stored: readonly Stored[],
): JobEntry {
  const here = renamedBody(body as EntryBody, ids, stored);
  const files = Object.entries(here.data).flatMap(([name, value]) =>
    (name === "photo" || name === "file") && typeof value === "string" ? [[name, ids.get(value) ?? value]] : [],
  );
  const data = { ...here.data, ...Object.fromEntries(files) };
  return { ...here, data, id: ids.get(id) ?? newId(), at, by } as JobEntry;
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
