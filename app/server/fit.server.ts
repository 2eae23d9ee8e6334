import { data } from "react-router";
import { lane } from "~/core/connect/lane";
import { readVersion } from "~/core/fit/firmware";
import { type LedgerLine, ledger } from "~/core/fit/ledger";
import { type Needs, needsOf } from "~/core/fit/needs";
import { type Candidate, matingClash, offerVerdict, rankKits, type Wish } from "~/core/fit/rank";
import { settle } from "~/core/fit/settle";
import type { DocumentPin } from "~/core/job/entry";
import { stripBase } from "~/core/job/plan";
import { type ColourMeaning, colourMeanings } from "~/core/library/colours";
import { type Choices, kitPartIds, resolveChoices } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import type { KitProfile, Minutes, VariantProfile } from "~/core/model/profile";
import type { FunctionSpec } from "~/core/model/types";
import { wholeWay } from "~/core/strip/view";
import type { Account } from "~/db/accounts";
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

/** Version of the radio's firmware as the car sheet's text gives it; the text itself when it cannot be read. */
function firmwareOf(text: string, variant: VariantProfile): string {
  if (text.trim() === "") return "";
  const known = (variant.firmware?.updates ?? []).flatMap((u) => [u.from, u.to]);
  return readVersion(text, variant.firmware?.written ?? [], known) ?? text.trim();
}

/** Rankings follow from documents, wishes and firmware alone; a few are kept. */
const rankings = new Map<string, Candidate[]>();
const KEPT = 40;

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
  const kept = rankings.get(key);
  if (kept) return kept;
  const list = rankKits(request);
  rankings.set(key, list);
  const oldest = rankings.keys().next().value;
  if (rankings.size > KEPT && oldest) rankings.delete(oldest);
  return list;
}

/** A kit with choices looked at closely, on the car of the job. */
export interface Offer {
  pin: DocumentPin;
  title: string;
  work: string;
  maker: string;
  choices: Choices;
  verdict: { level: "possible" | "conditions" | "impossible"; text: string };
  lines: LedgerLine[];
  needs: Needs;
  box: string[];
  missing: string[];
  colours: ColourMeaning[];
  /** Minutes to open the car and to close it again. */
  way: Minutes;
}

/** Looks at one kit closely. An impossible one has a verdict and nothing else. */
export function offerOf(job: LoadedJob, kit: KitProfile, asked: Choices, wishes: readonly Wish[]): Offer {
  const { car, variant } = job.plan.documents;
  const choices = resolveChoices(kit, asked);
  const head = {
    pin: { slug: kit.id, version: kit.version },
    title: kit.title,
    work: kit.work,
    maker: kit.maker,
    choices,
    box: kit.box,
    colours: [],
  };
  const nothing: Minutes = { low: 0, usual: 0, high: 0 };
  const none = { lines: [], missing: [], way: nothing, needs: { lines: [], minutes: nothing, price: 0 } };
  try {
    const settled = settle({ car, variant, kit }, choices, job.state.wishes);
    const clash = matingClash(settled.fitted, kit);
    if (clash) return { ...head, ...none, verdict: { level: "impossible", text: clash } };
    const lines = ledger(settled.stock, settled.fitted, settled.settings, kitPartIds(kit));
    const firmware = firmwareOf(job.state.car.firmware, variant);
    const needs = needsOf(car, variant, kit, settled.stock, choices, firmware);
    const way = wholeWay({ ...stripBase({ car, variant, kit }, settled.stock, choices), measured: {} });
    return {
      ...head,
      lines,
      needs,
      way: {
        low: way.in.low + way.back.low,
        usual: way.in.usual + way.back.usual,
        high: way.in.high + way.back.high,
      },
      verdict: offerVerdict(lines, wishes, needs.lines),
      missing: settled.switches?.missing ?? [],
    };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return { ...head, ...none, verdict: { level: "impossible", text: error.problem } };
  }
}

/** Colours of this kit that mean something else in another kit of the shop. */
export function colourWarnings(kit: KitProfile, kits: readonly KitProfile[]): ColourMeaning[] {
  const all = colourMeanings([kit, ...kits.filter((k) => k.id !== kit.id)]);
  return all.filter((m) => m.conflict && m.uses.some((u) => u.kit === kit.id));
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
    const { fitted, settings } = settle({ car, variant, kit }, choices, job.state.wishes);
    const fn = fitted.functions.find((f) => f.id === functionId);
    if (!fn?.situations.some((s) => s.id === situationId)) return null;
    return { name: fn.name, lane: lane(fitted, fn, situationId, settings, {}) };
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}
