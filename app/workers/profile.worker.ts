import { expose } from "comlink";
import { type DrawingGraph, drawingGraph } from "~/core/connect/drawing";
import { fitVerdict, type LedgerLine, ledger } from "~/core/fit/ledger";
import { matingClash } from "~/core/fit/offers";
import { resolveFit } from "~/core/fit/resolve-fit";
import { busMapCoverage } from "~/core/library/bus-map-coverage";
import { carCoverage, variantCoverage } from "~/core/library/car-coverage";
import { codingCoverage } from "~/core/library/coding-coverage";
import { kitCoverage } from "~/core/library/coverage";
import type { Gap } from "~/core/library/gap";
import { factsOf, type KitFacts } from "~/core/library/what-follows";
import { composeStock, kitPartIds } from "~/core/model/compose";
import { CoreError } from "~/core/model/errors";
import { Model } from "~/core/model/outcome";
import type { CarProfile, VariantProfile } from "~/core/model/profile";
import { DEFAULT_SITUATION, type System } from "~/core/model/types";
import { buildLeaflet } from "~/profiles/archetypes";
import { type FieldProblem, ProfileError } from "~/profiles/checks";
import { checkLeaflet, checkProfile } from "~/profiles/read";
import type { Profile } from "~/profiles/schema";

/** Where a document stands while it is written. */
export interface ProfileCheck {
  problem: { where: string; problem: string; remedy: string } | null;
  /** The fields that are wrong, where the problem is one of fields. */
  fields: readonly FieldProblem[];
  /** What it says about the car it is tried on. */
  verdict: { level: "possible" | "conditions" | "impossible"; text: string } | null;
  lines: LedgerLine[];
  graph: DrawingGraph | null;
  /** What a kit has, to tell what another answer changes. */
  facts: KitFacts | null;
}

const NOTHING: ProfileCheck = { problem: null, fields: [], verdict: null, lines: [], graph: null, facts: null };

/**
 * Checks a document as it stands and tries it: a kit on the given car and radio, a radio on its car, a car alone.
 * Never throws: what is wrong is part of the answer.
 */
function check(document: unknown, car: CarProfile | null, variant: VariantProfile | null): ProfileCheck {
  try {
    const profile = read(document, car);
    return {
      ...tryOut(profile, car, variant),
      facts: profile.document === "kit" ? factsOf(profile) : null,
    };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    const { where, problem, remedy } = error;
    const fields = error instanceof ProfileError ? error.fields : [];
    return { ...NOTHING, problem: { where, problem, remedy }, fields };
  }
}

function isLeaflet(value: unknown): boolean {
  return typeof value === "object" && value !== null && "archetype" in value;
}

function tryOut(profile: Profile, car: CarProfile | null, variant: VariantProfile | null): ProfileCheck {
  if (profile.document === "kit" && car && variant) {
    const { stock, fitted, settings } = resolveFit({ car, variant, kit: profile }, {});
    const kitParts = kitPartIds(profile);
    const clash = matingClash(fitted, profile);
    const lines = ledger(stock, fitted, settings, kitParts);
    return {
      ...NOTHING,
      verdict: clash ? { level: "impossible", text: clash } : fitVerdict(lines, []),
      lines,
      graph: drawingGraph(fitted, kitParts),
    };
  }
  if (profile.document === "kit")
    return { ...NOTHING, graph: drawingGraph(alone(profile.parts, profile.plug), kitPartIds(profile)) };
  if (profile.document === "coding" || profile.document === "busMap") return NOTHING;
  const system =
    profile.document === "variant"
      ? car && car.id === profile.car
        ? composeStock(car, profile)
        : alone(profile.parts, profile.links, profile.functions)
      : alone(profile.parts, profile.links, profile.functions);
  const own = new Set(profile.parts.map((p) => p.id));
  return { ...NOTHING, lines: standing(system), graph: drawingGraph(system, own) };
}

/** A document without the rest of the car: connections to parts it does not have are left out. */
function alone(parts: System["parts"], links: System["links"], functions: System["functions"] = []): System {
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

/** What the document leaves open; nothing while it cannot be read or planned, which the check says. */
function gaps(document: unknown, car: CarProfile | null, variant: VariantProfile | null): Gap[] {
  try {
    const profile = read(document, car);
    if (profile.document === "car") return carCoverage(profile, variant);
    if (profile.document === "variant") return car ? variantCoverage(car, profile) : [];
    if (profile.document === "coding") return codingCoverage(profile);
    if (profile.document === "busMap") return car ? busMapCoverage(profile, car) : [];
    return car && variant ? kitCoverage({ car, variant, kit: profile }) : [];
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return [];
  }
}

function read(document: unknown, car: CarProfile | null): Profile {
  return checkProfile(isLeaflet(document) ? buildLeaflet(checkLeaflet(document), car ? [car] : []) : document);
}

const api = { check, gaps };
export type ProfileWorker = typeof api;
expose(api);
