/** A document as it stands, perhaps still being written: whether it is sound, what it does, what it leaves open. */
import { busMapCoverage } from "../core/library/bus-map-coverage";
import { carCoverage, variantCoverage } from "../core/library/car-coverage";
import { codingCoverage } from "../core/library/coding-coverage";
import { kitCoverage } from "../core/library/coverage";
import type { Gap } from "../core/library/gap";
import { type TriedOut, tryOut } from "../core/library/try-out";
import { factsOf, type KitFacts } from "../core/library/what-follows";
import { CoreError } from "../core/model/errors";
import type { CarProfile, VariantProfile } from "../core/model/profile";
import { buildLeaflet } from "./archetypes";
import { type FieldProblem, ProfileError } from "./checks";
import { checkLeaflet, checkProfile } from "./read";
import type { Profile } from "./schema";

/** Where a document stands while it is written. */
export interface ProfileCheck extends Omit<TriedOut, "graph"> {
  problem: { where: string; problem: string; remedy: string } | null;
  /** The fields that are wrong, where the problem is one of fields. */
  fields: readonly FieldProblem[];
  /** Null where nothing is drawn: for maps, and for what makes no sense. */
  graph: TriedOut["graph"] | null;
  /** What a kit has, to tell what another answer changes. */
  facts: KitFacts | null;
}

const NOTHING: ProfileCheck = { problem: null, fields: [], verdict: null, lines: [], graph: null, facts: null };

/**
 * Checks a document or a leaflet as it stands and tries it: a kit on the given car and radio, a radio on its car, a car
 * alone. Never throws: what is wrong is part of the answer.
 */
export function tryDocument(document: unknown, car: CarProfile | null, variant: VariantProfile | null): ProfileCheck {
  try {
    const profile = read(document, car);
    if (profile.document === "coding" || profile.document === "busMap") return NOTHING;
    const facts = profile.document === "kit" ? factsOf(profile) : null;
    return { ...NOTHING, ...tryOut(profile, car, variant), facts };
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    const { where, problem, remedy } = error;
    const fields = error instanceof ProfileError ? error.fields : [];
    return { ...NOTHING, problem: { where, problem, remedy }, fields };
  }
}

/** What the document leaves open; nothing while it cannot be read or planned, which the check says. */
export function gapsOf(document: unknown, car: CarProfile | null, variant: VariantProfile | null): Gap[] {
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

function isLeaflet(value: unknown): boolean {
  return typeof value === "object" && value !== null && "archetype" in value;
}
