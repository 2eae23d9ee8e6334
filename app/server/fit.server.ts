import { data } from "react-router";
import { lane } from "~/core/connect/lane";
import { firmwareOf } from "~/core/fit/offer";
import { type Candidate, rankKits, type Wish } from "~/core/fit/rank";
import { resolveFit } from "~/core/fit/resolve-fit";
import { type ColourMeaning, colourMeanings } from "~/core/library/colours";
import type { Choices } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import type { KitProfile } from "~/core/model/profile";
import type { FunctionSpec } from "~/core/model/types";
import type { Account } from "~/db/accounts";
import { recallOr } from "~/db/cache";
import { newestDocuments, profileByPin } from "~/db/profiles";
import { database } from "./db.server";
import type { LoadedJob } from "./jobs.server";

/** Newest kits of the shop's library. */
export async function libraryKits(account: Account): Promise<KitProfile[]> {
  const all = await newestDocuments(database(), account.shopId, "kit");
  return all.flatMap((p) => (p.document === "kit" ? [p] : []));
}

/** Functions a customer may wish for on this car: what any kit of the library brings beyond the stock radio. */
export function wishesOf(kits: readonly KitProfile[], stock: readonly FunctionSpec[]): Wish[] {
  const known = new Set(stock.map((f) => f.id));
  const found = new Map<string, string>();
  for (const kit of kits)
    for (const fn of kit.functions) if (fn.who === "customer" && !known.has(fn.id)) found.set(fn.id, fn.name);
  return [...found].map(([id, name]) => ({ id, name })).sort((a, b) => (a.name < b.name ? -1 : 1));
}

/** About the memory of a ranking. */
const RANKING_KB = 400;

/** All kits of the library against the car of the job, best first. */
export async function ranked(account: Account, job: LoadedJob, kits: readonly KitProfile[]): Promise<Candidate[]> {
  const { car, variant } = job.plan.documents;
  const wished = job.state.wishes ?? [];
  const names = new Map(wishesOf(kits, []).map((w) => [w.id, w.name]));
  const request = {
    car,
    variant,
    kits,
    wishes: wished.map((id) => ({ id, name: names.get(id) ?? id })),
    firmware: firmwareOf(job.state.car.firmware, variant),
  };
  const key = JSON.stringify([
    account.shopId,
    [car, variant, ...kits].map((d) => `${d.id}@${d.version}`),
    request.wishes,
    request.firmware,
  ]);
  return recallOr("ranking", key, RANKING_KB, () => rankKits(request));
}

/** Colours of this kit that mean something else in another kit of the shop. */
export function colourWarnings({ shopId }: Account, kit: KitProfile, kits: readonly KitProfile[]): ColourMeaning[] {
  const key = `colours ${shopId} ${[kit, ...kits].map((k) => `${k.id}@${k.version}`).join()}`;
  return recallOr("ranking", key, RANKING_KB, () => {
    const all = colourMeanings([kit, ...kits.filter((k) => k.id !== kit.id)]);
    return all.filter((m) => m.conflict && m.uses.some((u) => u.kit === kit.id));
  });
}

/** Options by choice, as far as the kit offers them: those of an address, or those the shop usually takes. */
export function offeredChoices(kit: KitProfile, asked: Iterable<[string, string]>): Choices {
  return Object.fromEntries(
    [...asked].filter(([key, value]) => kit.choices.some((c) => c.id === key && c.options.some((o) => o.id === value))),
  );
}

/** A kit of the library by name. @throws 404 */
export async function kitNamed(account: Account, slug: string, version?: number): Promise<KitProfile> {
  const found = await profileByPin(database(), account.shopId, "kit", slug, version);
  if (found?.profile.document !== "kit")
    throw data(`There is no kit “${slug}” in the library of ${account.shopName}.`, { status: 404 });
  return found.profile;
}

/** Why a function of a kit does not work on this car: the lane with the first hop that fails. */
export function whyNot(job: LoadedJob, kit: KitProfile, choices: Choices, asked: string | null) {
  if (!asked) return null;
  const [functionId = "", situationId = ""] = asked.split("/");
  const { car, variant } = job.plan.documents;
  try {
    const { fitted, settings } = resolveFit({ car, variant, kit }, choices, job.state.wishes);
    const fn = fitted.functions.find((f) => f.id === functionId);
    if (!fn?.situations.some((s) => s.id === situationId)) return null;
    return { name: fn.name, lane: lane(fitted, fn, situationId, settings, {}) };
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}
