import { type Choices, composeFitted, resolveChoices } from "../model/compose";
import { CoreError } from "../model/errors";
import type { CarProfile, KitProfile, Minutes, VariantProfile } from "../model/profile";
import { withFirmware } from "./firmware";
import { type BriefLine, briefLedger, type FitVerdict, fitVerdict } from "./ledger";
import { type NeedLine, needsOf } from "./needs";
import { fitsNever, matingClash, offersOf, optionWords, supplyClash } from "./offers";
import {
  firmwareOfKit,
  type ResolvedFit,
  resolveFitted,
  type StockModel,
  settingsForWishes,
  stockModel,
} from "./resolve-fit";
import { fitTime, NO_TIME } from "./time";

/** One offer: a kit with one option of every choice that makes up an offer. */
export interface Candidate {
  kit: string;
  version: number;
  title: string;
  work: string;
  choices: Choices;
  /** The options taken, in words, those that are the usual ones left out. */
  with: string[];
  verdict: FitVerdict;
  /** Function identifiers. */
  met: string[];
  unmet: string[];
  gained: string[];
  /** Functions that the kit gives at most, with whichever options. */
  gives: number;
  lost: string[];
  /** Wires to run, holes, codings, firmware steps, licences: work beyond plugging. */
  extraWork: number;
  /** The whole work, the car opened and closed included. */
  minutes: Minutes;
  price: number;
}

/** A function the customer wants. */
export interface Wish {
  id: string;
  name: string;
}

export interface RankRequest {
  car: CarProfile;
  variant: VariantProfile;
  kits: readonly KitProfile[];
  /** What the customer wants, as functions; empty means whatever the kit gives. */
  wishes: readonly Wish[];
  /** Version found on the car, empty when unknown. */
  firmware: string;
}

/** Where the time of a ranking went. */
export interface RankTimes {
  evaluateMs: number;
  totalMs: number;
}

const LEVELS = { possible: 0, conditions: 1, impossible: 2 };

const EXTRA_WORK: ReadonlySet<NeedLine["kind"]> = new Set([
  "wire",
  "drilling",
  "coding",
  "firmware",
  "licence",
  "programming",
]);

/**
 * Every kit with every option and sound path against one car, best first: wishes fulfilled, then things lost, extra
 * work, time, price; impossible ones last, each with its reason.
 */
export function rankKits(request: RankRequest, clock: () => number = () => 0, times?: RankTimes): Candidate[] {
  const started = clock();
  const stock = stockModel(request.car, request.variant);
  const candidates = request.kits.flatMap((kit) => candidatesOf(request, kit, stock, clock, times));
  candidates.sort(byMerit);
  if (times) times.totalMs = clock() - started;
  return candidates;
}

/** Order of merit of two candidates. */
export function byMerit(a: Candidate, b: Candidate): number {
  return (
    Number(a.verdict.level === "impossible") - Number(b.verdict.level === "impossible") ||
    a.unmet.length - b.unmet.length ||
    b.met.length - a.met.length ||
    // Without a wish the kit that can give most comes first, with no more options than keep what there was; with
    // wishes the rest of its gifts do not count.
    (a.met.length + a.unmet.length === 0 ? b.gives - a.gives : 0) ||
    a.lost.length - b.lost.length ||
    LEVELS[a.verdict.level] - LEVELS[b.verdict.level] ||
    a.extraWork - b.extraWork ||
    a.minutes.likely - b.minutes.likely ||
    a.price - b.price ||
    (a.kit < b.kit ? -1 : a.kit > b.kit ? 1 : 0)
  );
}

function candidatesOf(
  request: RankRequest,
  kit: KitProfile,
  stock: StockModel,
  clock: () => number,
  times: RankTimes | undefined,
): Candidate[] {
  const [first = {}, ...others] = offersOf(kit);
  const tried = (choices: Choices) => candidate(request, kit, choices, stock, clock, times);
  const all = [tried(first)];
  if (others.length === 0 || all[0]?.verdict.level !== "impossible" || !fitsNever(request, kit, stock.system))
    all.push(...others.map(tried));
  const gives = Math.max(...all.map((c) => c.gained.length));
  for (const c of all) c.gives = gives;
  const possible = all.filter((c) => c.verdict.level !== "impossible");
  // Ten ways in which one kit does not fit say no more than the first.
  return possible.length > 0 ? possible : all.slice(0, 1);
}

function candidate(
  request: RankRequest,
  kit: KitProfile,
  choices: Choices,
  stock: StockModel,
  clock: () => number,
  times: RankTimes | undefined,
): Candidate {
  const { car, variant, wishes, firmware } = request;
  const ids = wishes.map((w) => w.id);
  const head = {
    kit: kit.id,
    version: kit.version,
    title: kit.title,
    work: kit.work,
    choices: resolveChoices(kit, choices),
    with: optionWords(kit, choices),
  };
  try {
    const started = clock();
    const composed = composeFitted(car, variant, kit, choices, stock.system);
    const fitted = variant.firmware?.effects
      ? withFirmware(composed, firmwareOfKit({ car, variant, kit }, stock.system, choices, firmware))
      : composed;
    const clash = matingClash(fitted, kit);
    if (clash) return { ...head, ...impossible(clash, ids) };
    const resolved = resolveFitted(kit, fitted, [], stock, "first");
    const dark = supplyClash(resolved, kit);
    if (dark) return { ...head, ...impossible(dark, ids) };
    const settings = settingsForWishes(resolved, ids);
    const lines = briefLedger(resolved.stock, resolved.fitted, settings, stock.model, resolved.model);
    if (times) times.evaluateMs += clock() - started;
    return { ...head, ...judged(request, kit, choices, resolved, lines, firmware) };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return { ...head, ...impossible(error.problem, ids) };
  }
}

function impossible(reason: string, wishes: readonly string[]) {
  const text = reason.charAt(0).toUpperCase() + reason.slice(1);
  return {
    verdict: { level: "impossible" as const, text },
    met: [],
    unmet: [...wishes],
    gained: [],
    gives: 0,
    lost: [],
    extraWork: 0,
    minutes: NO_TIME.whole,
    price: 0,
  };
}

function judged(
  request: RankRequest,
  kit: KitProfile,
  choices: Choices,
  resolved: ResolvedFit,
  lines: readonly BriefLine[],
  firmware: string,
) {
  const { car, variant, wishes } = request;
  const { stock, fitted } = resolved;
  const needs = needsOf({ car, variant, kit, stock, fitted, choices, firmware });
  const works = (id: string) => {
    const own = lines.filter((l) => l.functionId === id);
    return own.length > 0 && own.every((l) => l.verdict !== "lost" && l.verdict !== "never");
  };
  const withVerdict = (v: BriefLine["verdict"]) => [
    ...new Set(lines.filter((l) => l.verdict === v).map((l) => l.functionId)),
  ];
  return {
    verdict: offerVerdict(lines, wishes, needs.lines),
    met: wishes.map((w) => w.id).filter(works),
    unmet: wishes.map((w) => w.id).filter((w) => !works(w)),
    gained: withVerdict("gained"),
    gives: 0,
    lost: withVerdict("lost"),
    extraWork: needs.lines.filter((l) => EXTRA_WORK.has(l.kind)).length,
    minutes: fitTime({ car, kit }, stock, choices, needs.minutes).whole,
    price: needs.price,
  };
}

/** The ledger's verdict, sharpened by needs that stand in the way: no update path, firmware not read, a licence. */
export function offerVerdict(
  lines: readonly BriefLine[],
  wishes: readonly Wish[],
  needs: readonly NeedLine[],
): FitVerdict {
  const blocked = needs.find((n) => n.blocked);
  if (blocked) return { level: "impossible", text: `${blocked.say}.` };
  const foreign = wishes.filter((w) => !lines.some((l) => l.functionId === w.id));
  const own = fitVerdict(
    lines,
    wishes.map((w) => w.id),
  );
  if (own.level !== "impossible" && foreign.length > 0)
    return { level: "conditions", text: `Fits, but does not give: ${foreign.map((w) => w.name).join(", ")}.` };
  const condition = needs.find((n) => n.kind === "firmware" || n.kind === "licence");
  if (own.level !== "possible" || !condition) return own;
  return { level: "conditions", text: `Fits, on a condition: ${condition.say}.` };
}
