/** The phones of a job: what the kit and its choices ask of a first pairing, and how far each phone is. */
import { type PairingRules, type PairingState, type PairingWay, pairings } from "../configure/pairing";
import type { JobState } from "../log/entry";
import { askedChoices } from "../model/kit-condition";
import type { JobPlan } from "./plan";

/** What the choices of a plan make of the rules. */
export function pairingWay(
  rules: PairingRules,
  { documents, chosen, fitted }: Pick<JobPlan, "documents" | "chosen" | "fitted">,
): PairingWay {
  const { first } = rules;
  const option = typeof first === "string" ? first : chosen[first.choice];
  const assumed = askedChoices(documents.kit, chosen).flatMap(
    (c) => c.options.find((o) => o.id === chosen[c.id])?.assume?.paired ?? [],
  );
  const paired = assumed.at(-1);
  const heard = fitted.functions.flatMap((fn) => fn.situations).find((s) => s.set.phone === "wireless" && s.set.source);
  return {
    first: option === "cable" ? "cable" : "wireless",
    carPairing: paired === undefined ? null : paired ? "kept" : "removed",
    source: heard?.set.source ?? null,
  };
}

/** Phones as they stand; null for a kit whose leaflet says nothing about phones. */
export function phonesOf(
  plan: Pick<JobPlan, "documents" | "chosen" | "fitted">,
  { pairing }: Pick<JobState, "pairing">,
): PairingState[] | null {
  const rules = plan.documents.kit.phone;
  return rules ? pairings(rules, pairingWay(rules, plan), pairing) : null;
}
