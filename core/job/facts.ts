/** What the kinds of entries ask of a job, answered from its plan. */

import type { SightOutcome } from "../camera/sight";
import { answerOfValue } from "../diagnose/checks";
import { offerOf } from "../fit/offer";
import { type WiderWay, widerWays } from "../fit/try-first";
import type { JobFacts, NamedChoice, OfferFact } from "../log/facts";
import { type Refusal, refuse } from "../log/kind";
import { choiceRefusal, type DocumentPin } from "../log/kinds/fit/kit";
import { isFailure } from "../log/kinds/prove/result";
import { composeFitted, composeStock } from "../model/compose";
import { CoreError } from "../model/errors";
import { lowerFirst } from "../model/labels";
import type { KitProfile } from "../model/profile";
import { retriedAfter } from "../prove/retry";
import type { Test } from "../prove/tests";
import { isBlank } from "./blank";
import { proofKey } from "./bus-proof";
import { cameraStands, camerasOf, figureName, sightNow } from "./cameras";
import { noPower } from "./car-state";
import { codingFacts } from "./coding-facts";
import { connectFacts } from "./connect-facts";
import type { Job } from "./job";
import { isPowered } from "./power-now";
import { openPoints } from "./report";
import { sequencesOf } from "./sequences";
import { jobWalk, speakerPlug } from "./speaker-walk";
import { stripFacts } from "./strip-facts";
import { hypothesesOfPlan, looksOfPlan, looksTouchedBy } from "./suspects";
import { touchTests } from "./touch";
import { CLICKS, usesOf } from "./uses";

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
    ...connectFacts(job),
    ...codingFacts(job),

    kit: () => (isBlank(kit) ? null : { slug: kit.id, version: kit.version, title: kit.title }),
    chosen: () => ({ ...plan.chosen }),
    choice: (id) => choiceOf(kit, id),
    offer: () => (isBlank(kit) ? null : offerFact(job, facts.wish)),
    document: (kind, pin) => outside.document(kind, pin)?.title ?? null,
    clash: (kind, pin, choices) => clash(kind, pin, choices),
    wish: (id) =>
      [...plan.fitted.functions, ...plan.stock.functions].find((f) => f.id === id)?.name ?? outside.wish(id),
    file: outside.file,
    proof: (file) => outside.proof(proofKey(state, file)),

    camera: (id) => cameraOf(id)?.name ?? null,
    cameraLooks: (id) => cameraOf(id)?.looks ?? null,
    sightRefusal(data) {
      const camera = cameraOf(data.camera);
      return camera ? sightRefusal(camera.name, sightNow(plan, state, camera, data.sighting)) : null;
    },
    cameraMeasured(id) {
      const camera = cameraOf(id);
      return camera !== undefined && cameraStands(plan, state, camera).measured !== null;
    },
    cameraTurns(id) {
      const camera = cameraOf(id);
      return camera ? cameraStands(plan, state, camera).turns : [];
    },
    figure: (of, name) => figureName(plan, of, name),
    sequenceStep(id, stepId) {
      const sequence = sequencesOf(plan).find((s) => s.id === id);
      const found = sequence?.steps.find((s) => s.id === stepId);
      return sequence && found ? `${sequence.name}, ${lowerFirst(found.say)}` : null;
    },
    use(id) {
      const found = usesOf(plan).find((u) => u.id === id);
      return found ? `${found.title}, in the ${found.mode} picture` : null;
    },
    knobClicks: () => CLICKS,
    touchTest: (id) => test(touchTests(plan), id),
    speakerPlug: () => speakerPlug(plan)?.name ?? null,
    walk: () => jobWalk(plan, state),
    stand: () => job.strip(at).car,
    lasting: (id) => {
      const step = plan.strip.plan.steps.find((s) => s.id === id);
      return step?.lasting ? step.title : null;
    },
    noPower: () => noPower(job, at),
    isPowered: () => isPowered(plan, state, job.strip(at).car),

    baselineTry: (id) => test(plan.baseline, id),
    test: (id) => test(plan.tests, id),
    testSense(id) {
      const found = plan.tests.find((t) => t.id === id);
      return found ? { sense: found.sense, at: found.at } : null;
    },
    testWithinS(id) {
      const within = plan.tests.find((t) => t.id === id)?.fn.withinMs;
      return within === undefined ? null : within / 1000;
    },
    failing: () =>
      plan.tests
        .filter((t) => isFailure(state.results.get(t.id)?.value))
        .map((t) => ({ id: t.id, name: t.fn.name, law: t.fn.who === "law" })),
    retriedAfter(id) {
      const found = hypothesesOfPlan(plan).find((h) => h.id === id);
      return found ? retriedAfter(plan.fitted, plan.settings, plan.tests, found).map((t) => t.id) : [];
    },
    looksAt: (id) => looksTouchedBy(plan, id),
    look(id) {
      const found = looksOfPlan(plan).find((l) => l.id === id);
      if (!found) return null;
      return {
        id,
        name: found.title,
        options: found.answers.map((a) => ({ id: a.id, name: a.label })),
        unit: found.window?.unit ?? null,
        answerOf: (value) => answerOfValue(found, value),
      };
    },
    fault: (id) => hypothesesOfPlan(plan).find((h) => h.id === id && h.kind !== "none") ?? null,

    waysOut: () => (plan.switches?.conflict ?? []).map((way) => way.givesUp),

    openPoints: () => openPoints(job, at),
    openPoint: (id) => openPoints(job, at).find((p) => p.id === id) ?? null,
  };
  return facts;

  function cameraOf(id: string) {
    return camerasOf(plan).find((c) => c.id === id);
  }

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
      if (error instanceof CoreError) return refuse(error.where, error.problem, error.remedy);
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
    terms: [offer.verdict.text, ...lost, ...widerWays(documents, job.state, chosen).map(termOf)],
  };
}

/** What the customer agrees to beforehand. */
function termOf({ words, minutes, price }: WiderWay): string {
  const more = price === 0 ? "" : `, ${price > 0 ? "+" : ""}${price.toFixed(2)}`;
  return `${words} Then ${Math.round(minutes)} min more${more}.`;
}

/** What is wrong with the taps of a photo, and what to do. */
function sightRefusal(name: string, outcome: SightOutcome): Refusal | null {
  switch (outcome.kind) {
    case "measured":
      return null;
    case "few":
      return refuse(name, `${outcome.missing} more marks are needed.`, "Set more marks in the picture and tap them.");
    case "corners":
      return refuse(
        name,
        "The four corners of the screen make no quadrilateral.",
        "Tap them in turn: upper left, upper right, lower right, lower left.",
      );
    case "loose":
      return refuse(name, "The marks lie so that the camera cannot be told.", "Set marks in two rows or more.");
    case "noFit":
      return refuse(name, "No camera sees these marks where they were tapped.", "Look at the marks and tap again.");
  }
}
