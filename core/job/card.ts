/** The customer's card: what to do with which key, and where it is. */
import { pairingLines } from "../configure/pairing";
import { dashOf, markDash } from "../drawing/dash";
import type { Outline } from "../drawing/drawing";
import type { JobState } from "../log/entry";
import type { System } from "../model/types";
import { pairingWay, phonesOf } from "./phones";
import type { JobPlan } from "./plan";

/** Lines of the customer's card that hold on this car with the choices taken. */
export function cardOf(plan: JobPlan, state: Pick<JobState, "pairing">): string[] {
  const { documents, applies } = plan;
  const lines = documents.kit.card.flatMap((line) => {
    if (typeof line === "string") return line;
    return applies(line) ? line.say : [];
  });
  return [...lines, ...pairingCard(plan, state)];
}

/** First pairing for the kinds of phones that were paired here; for all kinds while none was. */
function pairingCard(plan: JobPlan, state: Pick<JobState, "pairing">): string[] {
  const rules = plan.documents.kit.phone;
  if (!rules) return [];
  const paired = phonesOf(plan, state)?.flatMap((p) => (p.step === null && p.family ? p.family.id : [])) ?? [];
  return pairingLines(rules, pairingWay(rules, plan), new Set(paired));
}

/** Panels that were off at some time of the job, as the dash names them. */
export function touchedPanels({ strip }: Pick<JobPlan, "strip">, state: Pick<JobState, "strip">): string[] {
  return strip.plan.steps.flatMap((s) =>
    s.panel && state.strip.stepEvents.some((e) => e.step === s.id) ? [s.panel] : [],
  );
}

/** Parts that carry the keys of the kit's actions: where the customer's finger goes. */
export function keyParts({ parts, actions }: Pick<System, "parts" | "actions">): string[] {
  const pressed = new Set(actions.map((a) => a.press));
  return parts.flatMap((p) => (p.sources?.some((s) => pressed.has(s.attributes?.key ?? "")) ? [p.id] : []));
}

/** The dash in lines, for paper. */
export interface DashLines {
  width: number;
  height: number;
  shapes: { outline: Outline; heavy: boolean; hatched: boolean }[];
  /** What is drawn heavily, in words. */
  heavy: string[];
}

/**
 * The dash of a job as it is drawn on paper.
 *
 * @param at parts that are pointed at
 * @param off panels that were off
 * @returns null for a car without a drawing
 */
export function dashLines(
  { documents }: Pick<JobPlan, "documents">,
  at: readonly string[],
  off: readonly string[],
): DashLines | null {
  const dash = dashOf(documents.car, documents.variant);
  if (!dash) return null;
  const marks = markDash(dash, { at, off });
  return {
    width: dash.width,
    height: dash.height,
    shapes: marks.map(({ shape, state }) => ({
      outline: shape.outline,
      heavy: state === "at",
      hatched: state === "off",
    })),
    heavy: marks.flatMap(({ shape, state }) => (state === "at" ? (shape.name ?? []) : [])),
  };
}
