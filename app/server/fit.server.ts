import { data } from "react-router";
import { type Candidate, rankKits } from "~/core/fit/rank";
import type { Job } from "~/core/job/job";
import { type ColourMeaning, colourMeanings } from "~/core/library/colours";
import type { CarProfile, KitProfile, VariantProfile } from "~/core/model/profile";
import { rankRequest } from "~/core/views/fit";
import type { Account } from "~/db/accounts";
import { recallOr } from "~/db/cache";
import { newestDocuments, profileByPin } from "~/db/profiles";
import { database } from "./db.server";

/** Newest kits of the shop's library. */
export async function libraryKits(account: Account): Promise<KitProfile[]> {
  const all = await newestDocuments(database(), account.shopId, "kit");
  return all.flatMap((p) => (p.document === "kit" ? [p] : []));
}

/** About the memory of a ranking. */
const RANKING_KB = 400;

/** All kits of the library against the car of the job, best first. */
export async function ranked(account: Account, job: Job, kits: readonly KitProfile[]): Promise<Candidate[]> {
  const request = rankRequest(job, kits);
  const key = JSON.stringify([
    account.shopId,
    [request.car, request.variant, ...kits].map((d) => `${d.id}@${d.version}`),
    request.wishes,
    request.firmware,
  ]);
  return recallOr("ranking", key, RANKING_KB, () => rankKits(request));
}

/** Kits that fit a car with a radio in no way, by name, each with the reason. */
export function misfits(
  { shopId }: Account,
  car: CarProfile,
  variant: VariantProfile,
  kits: readonly KitProfile[],
): Record<string, string> {
  const key = `misfits ${shopId} ${[car, variant, ...kits].map((d) => `${d.id}@${d.version}`).join()}`;
  return recallOr("ranking", key, RANKING_KB, () => {
    const all = rankKits({ car, variant, kits, wishes: [], firmware: "" });
    return Object.fromEntries(
      kits.flatMap((kit) => {
        const mine = all.filter((c) => c.kit === kit.id);
        const never = mine.every((c) => c.verdict.level === "impossible");
        return never && mine[0] ? [[kit.id, mine[0].verdict.text]] : [];
      }),
    );
  });
}

/** Colours of this kit that mean something else in another kit of the shop. */
export function colourWarnings({ shopId }: Account, kit: KitProfile, kits: readonly KitProfile[]): ColourMeaning[] {
  const key = `colours ${shopId} ${[kit, ...kits].map((k) => `${k.id}@${k.version}`).join()}`;
  return recallOr("ranking", key, RANKING_KB, () => {
    const all = colourMeanings([kit, ...kits.filter((k) => k.id !== kit.id)]);
    return all.filter((m) => m.conflict && m.uses.some((u) => u.kit === kit.id));
  });
}

/** A kit of the library by name. @throws 404 */
export async function kitNamed(account: Account, slug: string, version?: number): Promise<KitProfile> {
  const found = await profileByPin(database(), account.shopId, "kit", slug, version);
  if (found?.profile.document !== "kit")
    throw data(`There is no kit “${slug}” in the library of ${account.shopName}.`, { status: 404 });
  return found.profile;
}
