/** What a document does where it is tried: a kit on a car with its radio, a radio in its car, a car alone. */
import { type DrawingGraph, drawingGraph } from "../connect/drawing";
import { type FitVerdict, fitVerdict, type LedgerLine, ledger } from "../fit/ledger";
import { matingClash } from "../fit/offers";
import { resolveFit } from "../fit/resolve-fit";
import { composeStock, kitPartIds } from "../model/compose";
import { Model } from "../model/outcome";
import type { CarProfile, KitProfile, VariantProfile } from "../model/profile";
import { DEFAULT_SITUATION, type System } from "../model/types";

export interface TriedOut {
  /** What a kit says about the car it is tried on; null for other documents and without a car. */
  verdict: FitVerdict | null;
  /** Its functions, with what becomes of each. */
  lines: LedgerLine[];
  /** The system it makes, what it brings drawn heavy. */
  graph: DrawingGraph;
}

/** @throws {CoreError} when the documents do not go together */
export function tryOut(
  document: CarProfile | VariantProfile | KitProfile,
  car: CarProfile | null,
  variant: VariantProfile | null,
): TriedOut {
  if (document.document === "kit") return tryKit(document, car, variant);
  const system =
    document.document === "variant" && car?.id === document.car
      ? composeStock(car, document)
      : alone(document.parts, document.links, document.functions);
  const own = new Set(document.parts.map((p) => p.id));
  return { verdict: null, lines: standing(system), graph: drawingGraph(system, own) };
}

function tryKit(kit: KitProfile, car: CarProfile | null, variant: VariantProfile | null): TriedOut {
  const kitParts = kitPartIds(kit);
  if (!car || !variant)
    return { verdict: null, lines: [], graph: drawingGraph(alone(kit.parts, kit.plug, []), kitParts) };
  const { stock, fitted, settings } = resolveFit({ car, variant, kit }, {});
  const clash = matingClash(fitted, kit);
  const lines = ledger(stock, fitted, settings, kitParts);
  return {
    verdict: clash ? { level: "impossible", text: clash } : fitVerdict(lines, []),
    lines,
    graph: drawingGraph(fitted, kitParts),
  };
}

/** A document without the rest of the car: connections to parts it does not have are left out. */
function alone(parts: System["parts"], links: System["links"], functions: System["functions"]): System {
  const has = (ref: string) => parts.some((p) => p.ports.some((port) => `${p.id}.${port.id}` === ref));
  return {
    parts,
    links: links.filter((l) => has(l.a) && has(l.b)),
    functions,
    actions: [],
    assumed: [],
    defaultSituation: DEFAULT_SITUATION,
  };
}

/** The functions of a system as it is: what works and what does not, and why. */
function standing(system: System): LedgerLine[] {
  const model = new Model(system);
  return system.functions.flatMap((fn) =>
    fn.situations.map((s): LedgerLine => {
      const { outcome } = model.try(fn, s.id);
      return {
        functionId: fn.id,
        situationId: s.id,
        name: fn.name,
        label: s.label,
        who: fn.who,
        verdict: outcome.kind === "ok" ? "kept" : "never",
        causes: outcome.kind === "absent" ? outcome.break.reasons : [],
      };
    }),
  );
}
