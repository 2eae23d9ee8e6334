import type { Hop } from "../model/evaluate";
import { Model, type Outcome, type Tried } from "../model/outcome";
import type { FunctionSpec, Settings, Situation, System } from "../model/types";
import { locate, situationWords } from "../model/words";

export type LedgerVerdict = "gained" | "kept" | "changed" | "lost" | "never";

/** One function before and after, with the reason for the difference. */
export interface LedgerLine {
  functionId: string;
  situationId: string;
  name: string;
  label: string;
  who: FunctionSpec["who"];
  verdict: LedgerVerdict;
  causes: string[];
}

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
 * @param ours parts that the kit brings
 * @param before the stock model, where many kits are compared on one car
 * @param after the fitted model, where it is at hand already
 */
export function ledger(
  stock: System,
  fitted: System,
  settings: Settings,
  ours: ReadonlySet<string>,
  before: Model = new Model(stock),
  after: Model = new Model(fitted),
): LedgerLine[] {
  return fitted.functions.flatMap((fn) =>
    fn.situations.map((s) => {
      const known = stock.functions.some((f) => f.id === fn.id);
      const was = known ? before.try(fn, s.id) : null;
      const is = after.try(fn, s.id, settings);
      const gone = known ? goneParts(stock, fitted, fn) : [];
      if (gone.length > 0 && is.outcome.kind !== "ok")
        return { ...head(fn, s), verdict: "lost" as const, causes: gone };
      const { verdict, causes } = compare(fitted, ours, was, is, stock.usual);
      return { ...head(fn, s), verdict, causes };
    }),
  );
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

function compare(
  fitted: System,
  ours: ReadonlySet<string>,
  was: Tried | null,
  is: Tried,
  usual: Situation,
): { verdict: LedgerVerdict; causes: string[] } {
  const worked = was?.outcome.kind === "ok";
  const works = is.outcome.kind === "ok";
  if (!works) {
    const causes = [...changedSituation(fitted, usual, is), ...reasonsOf(is.outcome)];
    return { verdict: worked ? "lost" : "never", causes };
  }
  const through = partsThrough(fitted, ours, is.outcome.kind === "ok" ? is.outcome.hops : []);
  if (!worked || was?.outcome.kind !== "ok")
    return { verdict: "gained", causes: through.length ? [`Comes by ${through.join(", ")}.`] : [] };
  const extraMs = (is.outcome.kind === "ok" ? is.outcome.afterMs : 0) - was.outcome.afterMs;
  if (extraMs > 0) {
    return {
      verdict: "changed",
      causes: [
        `Now passes through ${through.join(", ")} and settles after ${seconds(was.outcome.afterMs + extraMs)} instead of ${seconds(was.outcome.afterMs)}.`,
      ],
    };
  }
  return { verdict: "kept", causes: through.length ? [`Now passes through ${through.join(", ")}.`] : [] };
}

/** Usual circumstances that the kit changes and that the failing function would need, for example the pairing. */
function changedSituation(fitted: System, usual: Situation, is: Tried): string[] {
  return Object.keys(usual).flatMap((key) => {
    const field = key as keyof Situation;
    if (usual[field] === fitted.usual[field] || is.situation[field] !== fitted.usual[field]) return [];
    return [`With this choice ${situationWords(field, fitted.usual[field])}.`];
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

function partsThrough(system: System, ours: ReadonlySet<string>, hops: readonly Hop[]): string[] {
  const ids = [...new Set(hops.map((h) => h.ref.split(".")[0] as string))].filter((id) => ours.has(id));
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
export function fitVerdict(lines: readonly LedgerLine[], wishes: readonly string[]): FitVerdict {
  const broken = lines.filter((l) => l.who === "law" && l.verdict === "lost");
  if (broken.length > 0)
    return { level: "impossible", text: `Not like this: ${names(broken)} would be lost and must not be.` };
  const unmet = lines.filter((l) => wishes.includes(l.functionId) && (l.verdict === "lost" || l.verdict === "never"));
  if (unmet.length > 0) return { level: "conditions", text: `Fits, but not all wishes: ${names(unmet)}.` };
  const lost = lines.filter((l) => l.verdict === "lost");
  if (lost.length > 0)
    return { level: "conditions", text: `Fits. The customer gives up: ${names(lost)}. Tell them before.` };
  return { level: "possible", text: "Fits. Everything that worked before still works." };
}

function names(lines: readonly LedgerLine[]): string {
  return [...new Set(lines.map((l) => l.name))].join(", ");
}
