/** Bringing in profiles from another shop: compared with one's own first, never laid over them unseen. */
import { type Difference, differences } from "../core/library/differences";
import { type About, isZip, type Photos, readBundle } from "../profiles/bundle";
import { readProfile } from "../profiles/read";
import type { Profile } from "../profiles/schema";
import type { Sql } from "./database";
import { PhotoError, photoName, photosOf, storePhoto } from "./library-photos";
import { lockedVersion, lockImports, profileByPin, saveProfile } from "./profiles";

/** A profile of the file against what the shop has under its identifier. */
export interface Incoming {
  key: string;
  kind: Profile["document"];
  title: string;
  state: "new" | "same" | "differs";
  /** Version that the shop has; 0 for none. */
  ours: number;
  /** Who wrote it there, and in how many closed jobs it was. */
  from: { shop: string; by: string; closedJobs: number } | null;
  differences: Difference[];
  /** How many more there are. */
  more: number;
}

const SHOWN = 12;

/** @throws {CoreError} naming file and place */
export function readImport(bytes: Uint8Array): { profiles: Profile[]; about: About | null; photos: Photos } {
  if (!isZip(bytes))
    return { profiles: [readProfile(new TextDecoder().decode(bytes))], about: null, photos: new Map() };
  const bundle = readBundle(bytes);
  for (const [name, photo] of bundle.photos)
    if (photoName(photo) !== name)
      throw new PhotoError(
        `photo “${name.slice(0, 12)}…”`,
        "it does not hold what its name says.",
        "Export the bundle again; nothing was stored.",
      );
  return bundle;
}

const keyOf = (p: Profile) => `${p.document}/${p.id}`;

export async function compareImport(
  sql: Sql,
  shopId: string,
  { profiles, about }: { profiles: readonly Profile[]; about: About | null },
): Promise<Incoming[]> {
  const list: Incoming[] = [];
  for (const p of profiles) {
    const own = await profileByPin(sql, shopId, p.document, p.id);
    const found = own ? differences(own.profile, JSON.parse(JSON.stringify(p))) : [];
    const author = about?.profiles.find((a) => a.kind === p.document && a.id === p.id);
    list.push({
      key: keyOf(p),
      kind: p.document,
      title: p.title,
      state: !own ? "new" : found.length === 0 ? "same" : "differs",
      ours: own?.profile.version ?? 0,
      from: about && author ? { shop: about.shop, by: author.by, closedJobs: author.closedJobs } : null,
      differences: found.slice(0, SHOWN),
      more: Math.max(0, found.length - SHOWN),
    });
  }
  return list;
}

/**
 * Stores the chosen profiles with the photos they name, all or none.
 *
 * @param seen version that the shop had of each when it was compared
 * @returns null when one of them was changed here meanwhile: then it must be compared again
 */
export async function takeImport(
  sql: Sql,
  shopId: string,
  profiles: readonly Profile[],
  seen: ReadonlyMap<string, number>,
  by: string,
  photos: Photos = new Map(),
) {
  await lockImports(sql, shopId);
  for (const p of profiles)
    if ((await lockedVersion(sql, shopId, p.document, p.id)) !== seen.get(keyOf(p))) return null;
  const stored = [];
  for (const p of profiles) stored.push(await saveProfile(sql, shopId, p, by));
  for (const name of photosOf(profiles)) {
    const bytes = photos.get(name);
    if (bytes) await storePhoto(sql, shopId, bytes, by);
  }
  return stored;
}
