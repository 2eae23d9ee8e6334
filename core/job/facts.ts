/** What the kinds of entries ask of a job, answered from its plan. */

import { placesFor } from "../connect/as-plugged";
import { connectionPlan } from "../connect/connection-plan";
import { isReversible } from "../connect/rules/plugs";
import { checkList } from "../diagnose/bench";
import { offerOf } from "../fit/offer";
import { movable, placement } from "../lengths/placement";
import type { JobFacts, NamedChoice, OfferFact, PositionFact } from "../log/facts";
import { type Refusal, refuse } from "../log/kind";
import { choiceRefusal, type DocumentPin } from "../log/kinds/fit/kit";
import { isFailure } from "../log/kinds/prove/result";
import { composeFitted, composeStock } from "../model/compose";
import { CoreError } from "../model/errors";
import { singleFaults } from "../model/faults";
import type { KitProfile } from "../model/profile";
import { forbidden, rankFeeds } from "../power/feed";
import { retriedAfter } from "../prove/retry";
import type { Test } from "../prove/tests";
import { isBlank } from "./blank";
import { feedNeed } from "./feed-need";
import type { Job } from "./job";
import { noPower } from "./next";
import { awaitsFeed, deliveredValue } from "./plan";
import { handoverReport } from "./report";
import { stripFacts } from "./strip-facts";

/**
 * The facts of a job at a moment.
 *
 * @param at ISO 8601, UTC: when the thing was done that is to be written
 */
export function factsOf(job: Job, at: string): JobFacts {
  const { state, plan, entries, outside } = job;
  const { car, variant, kit } = plan.documents;
  const test = (list: readonly Test[], id: string) => {
    const found = list.find((t) => t.id === id);
    return found ? `${found.fn.name}, ${found.label}` : null;
  };
  const facts: JobFacts = {
    state,
    entries,
    at,
    ...stripFacts(plan, state, at),

    kit: () => (isBlank(kit) ? null : { slug: kit.id, version: kit.version, title: kit.title }),
    chosen: () => ({ ...plan.chosen }),
    choice: (id) => choiceOf(kit, id),
    offer: () => (isBlank(kit) ? null : offerFact(job, facts.wish)),
    document: (kind, pin) => outside.document(kind, pin)?.title ?? null,
    clash: (kind, pin, choices) => clash(kind, pin, choices),
    wish: (id) =>
      [...plan.fitted.functions, ...plan.stock.functions].find((f) => f.id === id)?.name ?? outside.wish(id),
    file: outside.file,

    noPower: () => noPower(job, at),

    baselineTry: (id) => test(plan.baseline, id),
    test: (id) => test(plan.tests, id),
    failing: () =>
      plan.tests
        .filter((t) => isFailure(state.results.get(t.id)?.value))
        .map((t) => ({ id: t.id, name: t.fn.name, law: t.fn.who === "law" })),
    retriedAfter(id) {
      const found = singleFaults(plan.fitted, plan.touched).find((f) => f.id === id);
      return found ? retriedAfter(plan.fitted, plan.settings, plan.tests, found).map((t) => t.id) : [];
    },
    look(id) {
      const found = checkList(plan.fitted, plan.touched).find((c) => c.id === id);
      return found ? { id, name: found.title, options: found.answers.map((a) => ({ id: a.id, name: a.label })) } : null;
    },
    fault: (id) => singleFaults(plan.fitted, plan.touched).find((f) => f.id === id) ?? null,

    connection(link) {
      const found = plan.connections.find((c) => c.link === link);
      if (!found) return null;
      return {
        id: link,
        name: found.say,
        places: placesFor(plan.fitted, found),
        reversible: isReversible(plan.fitted, found),
        awaitsFeed: awaitsFeed(plan, state, found),
      };
    },
    task: (id) => connectionPlan(plan.base, plan.connections).find((t) => t.id === id)?.say ?? null,
    movable(part) {
      const now = placement(kit, plan.applies, state.placed);
      const found = movable(plan.fitted, now).find((p) => p.id === part);
      return found ? { id: part, name: found.name, place: now.places.get(part) ?? "" } : null;
    },
    places: () => [
      ...new Set([...(car.places ?? []).map((p) => p.name), ...(car.runs ?? []).flatMap((r) => [r.from, r.to])]),
    ],
    noFeedNeeded() {
      const need = feedNeed(job);
      return need.kind === "none" ? need.say : null;
    },
    position: (id) => positionFact(job, id),

    setting(ref) {
      const found = plan.sets.find((s) => s.setting === ref);
      if (!found) return null;
      return { id: ref, name: found.say, delivered: deliveredValue(plan.fitted, ref) ?? "", planned: found.value };
    },
    bank() {
      const bank = kit.switchBank;
      return bank ? { switches: bank.switches.map((s) => `${bank.part}.${s}`), on: bank.on, off: bank.off } : null;
    },

    waysOut: () => (plan.switches?.conflict ?? []).map((way) => way.givesUp),

    openPoints: () => handoverReport(plan, state, at).openPoints.map((p) => p.text),
  };
  return facts;

  function clash(kind: "variant" | "kit", pin: DocumentPin, choices: Record<string, string>): Refusal | null {
    const found = outside.document(kind, pin);
    if (found?.document === "kit") {
      const refusal = choiceRefusal({ ...facts, choice: (id) => choiceOf(found, id) }, choices);
      if (refusal) return refusal;
    }
    try {
      if (found?.document === "variant") composeStock(car, found);
      if (found?.document === "kit") composeFitted(car, variant, found, choices);
      return null;
    } catch (error) {
      if (error instanceof CoreError) return refuse(error.place, error.problem, error.remedy);
      throw error;
    }
  }
}

function choiceOf(kit: KitProfile, id: string): NamedChoice | null {
  const choice = kit.choices.find((c) => c.id === id);
  if (!choice) return null;
  return { id, name: choice.label, options: choice.options.map((o) => ({ id: o.id, name: o.label })) };
}

/** The offer with the options that were confirmed, as it stands on the paper that the customer signs. */
function offerFact(job: Job, wish: JobFacts["wish"]): OfferFact {
  const { documents, chosen } = job.plan;
  const wishes = (job.state.wishes ?? []).map((id) => ({ id, name: wish(id) ?? id }));
  const offer = offerOf(documents, job.state, chosen, wishes);
  const lost = offer.lines.filter((l) => l.verdict === "lost").map((l) => `Given up: ${l.name}, ${l.label}.`);
  return {
    kit: offer.pin,
    title: offer.title,
    choices: { ...offer.choices },
    price: offer.needs.price,
    currency: job.outside.currency,
    terms: [offer.verdict.text, ...lost],
  };
}

function positionFact({ plan, state }: Job, id: string): PositionFact | null {
  const position = plan.documents.car.fusePanel?.find((p) => p.id === id);
  if (!position) return null;
  const [judged] = rankFeeds([position], { steadyA: 0.1, peakA: 0.1 }, state.feedTests);
  return {
    id,
    name: `${position.id} ${position.circuit}`,
    used: position.used,
    forbidden: forbidden(position),
    notYet: judged?.verdict === "good" ? null : (judged?.reasons.at(-1) ?? ""),
  };
}
