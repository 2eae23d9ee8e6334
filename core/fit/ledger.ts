import type { Hop } from "../model/evaluate";
import { locate, situationWords } from "../model/labels";
import type { Outcome } from "../model/observe";
import { Model, type Tried } from "../model/outcome";
import type { FunctionSpec, Settings, Situation, System } from "../model/types";

/** `faulty` is what would stay as it is, had it not failed on this car before the work. */
export type LedgerVerdict = "gained" | "kept" | "changed" | "lost" | "never" | "faulty";

/** One function before and after, with the reason for the difference. */
export interface LedgerLine {
  functionId: string;
  situationId: string;
  name: string;
  label: string;
  who: FunctionSpec["who"];
  verdict: LedgerVerdict;
  causes: string[];
  /** The car as built does it; whether this car does nobody has tried before the work. */
  untried?: true;
}

/** The same as far as a ranking needs it: what stays may come later than before. */
export type BriefLine = Pick<LedgerLine, "functionId" | "name" | "who"> & { verdict: LedgerVerdict | BriefVerdict };
type BriefVerdict = "gained" | "stays" | "lost" | "never";

/** A fitted job in one line. */
export interface FitVerdict {
  level: "possible" | "conditions" | "impossible";
  text: string;
}

/**
 * The ledger gained / kept / changed / lost: every function in every situation, evaluated on the stock and on the
 * as-fitted system, with the cause of each difference.
 *
 * @param settings the settings as they are to stand in the fitted system
 * @param kitParts parts that the kit brings
 * @param before the stock model, where many kits are compared on one car
 * @param after the fitted model, where it is at hand already
 */
export function ledger(
  stock: System,
  fitted: System,
  settings: Settings,
  kitParts: ReadonlySet<string>,
  before: Model = new Model(stock),
  after: Model = new Model(fitted),
): LedgerLine[] {
  return fitted.functions.flatMap((fn) =>
    fn.situations.map((s) => {
      const known = stock.functions.some((f) => f.id === fn.id);
      const was = known ? before.try(fn, s.id) : null;
      const is = after.try(fn, s.id, settings);
      const gone = known && isGone(after, fn);
      const brief = briefVerdict(was?.outcome ?? null, is.outcome, gone);
      const verdict = brief === "stays" ? stays(was?.outcome, is.outcome) : brief;
      const why =
        gone && verdict === "lost"
          ? goneParts(stock, fitted, fn)
          : causes(verdict, fitted, kitParts, was, is, stock.defaultSituation);
      return { ...head(fn, s), verdict, causes: why };
    }),
  );
}

/** The verdicts of a ledger without their causes and times, for rankings. */
export function briefLedger(
  stock: System,
  fitted: System,
  settings: Settings,
  before: Model,
  after: Model,
): BriefLine[] {
  const stockFunctions = new Set(stock.functions.map((f) => f.id));
  return fitted.functions.flatMap((fn) => {
    const known = stockFunctions.has(fn.id);
    const gone = known && isGone(after, fn);
    return fn.situations.map((s) => {
      const was = known ? before.see(fn, s.id) : null;
      const is = after.see(fn, s.id, settings);
      return { functionId: fn.id, name: fn.name, who: fn.who, verdict: briefVerdict(was, is, gone) };
    });
  });
}

/** Verdicts on what the car as built does. */
const HAD: readonly LedgerVerdict[] = ["kept", "changed", "lost"];

/** What the baseline of a job found, by test: nothing that failed before is called kept. */
export type Baseline = ReadonlyMap<string, { value: string }>;

/** The ledger of a car that was tried before the work, as far as it was. */
export function withBaseline(lines: readonly LedgerLine[], baseline: Baseline): LedgerLine[] {
  return lines.map((l) => {
    const before = baseline.get(`${l.functionId}/${l.situationId}`)?.value;
    if (before === undefined) return HAD.includes(l.verdict) ? { ...l, untried: true } : l;
    if (before === "pass" || (l.verdict !== "kept" && l.verdict !== "changed")) return l;
    const was = before === "absent" ? "It was not there" : "It did not work";
    return { ...l, verdict: "faulty", causes: [`${was} before the work.`, ...l.causes] };
  });
}

type Seen = Pick<Outcome, "kind">;

/**
 * Gained, lost, there as before or never there, from what is seen before and after.
 *
 * @param gone the place where it was noticed has left the car
 */
function briefVerdict(was: Seen | null, is: Seen, gone: boolean): BriefVerdict {
  if (is.kind !== "ok") return gone || was?.kind === "ok" ? "lost" : "never";
  return was?.kind === "ok" ? "stays" : "gained";
}

/** What stays is changed where it comes later than before. */
function stays(was: Outcome | undefined, is: Outcome): LedgerVerdict {
  return was?.kind === "ok" && is.kind === "ok" && is.afterMs > was.afterMs ? "changed" : "kept";
}

/** True when a place where a function is noticed is not in the car. */
function isGone(after: Model, fn: FunctionSpec): boolean {
  return fn.observe.some((o) => !after.compiled.indexOf.has(o.at));
}

function head(fn: FunctionSpec, s: FunctionSpec["situations"][number]) {
  return { functionId: fn.id, situationId: s.id, name: fn.name, label: s.label, who: fn.who };
}

/** Places where the function was noticed and that are no longer in the car. */
function goneParts(stock: System, fitted: System, fn: FunctionSpec): string[] {
  const gone = fn.observe
    .filter((o) => !locate(fitted, o.at).contact)
    .map((o) => locate(stock, o.at).part?.name ?? o.at);
  return [...new Set(gone)].map((name) => `${name} leaves the car or has no place for it.`);
}

function causes(
  verdict: LedgerVerdict,
  fitted: System,
  kitParts: ReadonlySet<string>,
  was: Tried | null,
  is: Tried,
  usual: Situation,
): string[] {
  if (is.outcome.kind !== "ok") return [...changedSituation(fitted, usual, is), ...reasonsOf(is.outcome)];
  const through = partsThrough(fitted, kitParts, is.outcome.hops).join(", ");
  if (verdict === "gained") return through ? [`Comes by ${through}.`] : [];
  if (verdict === "kept" || was?.outcome.kind !== "ok") return through ? [`Now passes through ${through}.`] : [];
  return [
    `Now passes through ${through} and settles after ${seconds(is.outcome.afterMs)} instead of ${seconds(was.outcome.afterMs)}.`,
  ];
}

/** Usual circumstances that the kit changes and that the failing function would need, for example the pairing. */
function changedSituation(fitted: System, usual: Situation, is: Tried): string[] {
  return Object.keys(usual).flatMap((key) => {
    const field = key as keyof Situation;
    if (usual[field] === fitted.defaultSituation[field] || is.situation[field] !== fitted.defaultSituation[field])
      return [];
    return [`With this choice ${situationWords(field, fitted.defaultSituation[field])}.`];
  });
}

/** The reasons an outcome other than ok gives. */
function reasonsOf(outcome: Outcome): string[] {
  if (outcome.kind === "absent") return outcome.break.reasons;
  if (outcome.kind === "wrong")
    return [`Shows ${outcome.attribute} ${outcome.got} instead of ${outcome.expected}.`, ...outcome.reasons];
  if (outcome.kind === "doubled") return outcome.reasons;
  if (outcome.kind === "late")
    return [
      `Comes after ${(outcome.afterMs / 1000).toFixed(1)} s; allowed are ${(outcome.withinMs / 1000).toFixed(1)} s.`,
    ];
  return [];
}

function partsThrough(system: System, kitParts: ReadonlySet<string>, hops: readonly Hop[]): string[] {
  const ids = [...new Set(hops.map((h) => h.ref.split(".")[0] as string))].filter((id) => kitParts.has(id));
  return ids.map((id) => locate(system, `${id}.x.x`).part?.name ?? id);
}

function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}

/**
 * The verdict in one line, from the ledger alone: what the law asks for must work, the wishes decide the rest.
 *
 * @param wishes function identifiers that the customer wants
 */
export function fitVerdict(lines: readonly BriefLine[], wishes: readonly string[]): FitVerdict {
  const broken = lines.filter((l) => l.who === "law" && l.verdict === "lost");
  if (broken.length > 0)
    return { level: "impossible", text: `Not like this: ${names(broken)} would be lost and must not be.` };
  const unmet = lines.filter((l) => wishes.includes(l.functionId) && (l.verdict === "lost" || l.verdict === "never"));
  if (unmet.length > 0) return { level: "conditions", text: `Fits, but not all wishes: ${names(unmet)}.` };
  const lost = lines.filter((l) => l.verdict === "lost");
  if (lost.length > 0)
    return { level: "conditions", text: `Fits. The customer gives up: ${names(lost)}. Tell them before.` };
  return { level: "possible", text: "Fits. Nothing of the car is lost." };
}

function names(lines: readonly Pick<LedgerLine, "name">[]): string {
  return [...new Set(lines.map((l) => l.name))].join(", ");
}
