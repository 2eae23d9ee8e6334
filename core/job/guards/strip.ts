/** Guards over the steps of the strip plan: airbags, key, selector, the first panel, what cannot be undone. */

import type { FitVerdict } from "../../fit/ledger";
import { offerOf } from "../../fit/offer";
import type { AskedOf } from "../../log/entry";
import { oncePer } from "../../model/once";
import type { StripStep } from "../../model/profile";
import { needsOf } from "../../strip/graph";
import { waitLeftMin } from "../../strip/hazards";
import { prepStepOf } from "../../strip/vehicle-state";
import { isBlank } from "../blank";
import { firmwareBelow } from "../firmware-floor";
import type { JobPlan } from "../plan";
import { type Signature, signatureOf, unsignedWords } from "../signature";
import { bringing } from "./car";
import { asksFor, type Pressing, refused, type Stop } from "./guard";

/** A step of the way in or back, or a preparation step. */
export function doingStep(press: Pressing, { step: id, direction }: AskedOf<"strip.step">): Stop | null {
  const { plan } = press.view.route;
  const step = plan.steps.find((s) => s.id === id);
  if (step)
    return (
      (direction === "in" ? firstPanel(press, step) : null) ??
      inAirbagZone(press, step) ??
      (direction === "in" ? lasting(press, step) : null) ??
      standing(press, step)
    );
  const prepStep = prepStepOf(plan, id);
  return prepStep ? (bringing(press, prepStep.sets) ?? beforePrepStep(press, prepStep.sets)) : null;
}

/** Airbag plugs and what covers them: only with the battery off for as long as the maker says. */
function inAirbagZone({ car, at, view }: Pressing, step: StripStep): Stop | null {
  if (!step.airbagZone && !step.opens?.some((o) => o.airbag)) return null;
  if (car.battery !== "isolated")
    return refused(
      "airbag",
      step.title,
      `${step.title}: airbags are near and the battery is connected.`,
      "Battery negative off, then wait as the maker says. Never probe airbag wiring.",
    );
  const { batteryWaitMin } = view.route.plan;
  const left = waitLeftMin(car, view.route.plan, at);
  if (left > 0)
    return refused(
      "wait",
      step.title,
      `${step.title}: airbags are near and the waiting time is not over.`,
      `Wait ${Math.ceil(left)} more min; steps away from the airbags may go on.`,
    );
  return batteryWaitMin === undefined
    ? asksFor(
        "wait",
        car,
        { waited: true },
        `How long to wait before ${step.title.toLowerCase()} is not known for this car: the maker says it.`,
      )
    : null;
}

/** Key, selector, brake and battery as the step needs them; where it says nothing the car is at rest. */
function standing({ plan, car }: Pressing, step: StripStep): Stop | null {
  const needs = needsOf(step);
  if (needs.battery === "isolated" && car.battery !== "isolated")
    return asksFor(
      "battery",
      car,
      { battery: "isolated", key: "off" },
      `${step.title}: by the way of working the battery is off.`,
    );
  const selector = needs.selector && !needs.selector.includes(car.selector) ? needs.selector[0] : undefined;
  if (selector || needs.selector)
    return asksFor(
      "selector",
      car,
      { parkingBrake: true, ...(needs.key ? { key: needs.key } : {}), ...(selector ? { selector } : {}) },
      `${step.title} needs the selector in ${needs.selector?.join(" or ")}${car.parkingBrake ? "" : ", and the parking brake is not set"}.`,
    );
  if (needs.key) return asksFor("key", car, { key: needs.key }, `${step.title} needs the key ${needs.key}.`);
  if (car.key === "running")
    return asksFor("key", car, { key: "off" }, `${step.title}: the engine is running. Exhaust gas kills indoors.`);
  return step.opens?.length || plan.chosen.battery === "off"
    ? asksFor("key", car, { key: "off" }, `${step.title}: plugs are opened and closed with the key off.`)
    : null;
}

/** Whether the kit of a plan fits; the same for every step that is looked at. */
export const verdictOf = oncePer(
  ({ documents, chosen, firmware }: JobPlan): FitVerdict =>
    offerOf(
      documents,
      { givenUp: [], car: { firmware: firmware.present }, placed: new Map(), baseline: new Map() },
      chosen,
      [],
    ).verdict,
);

function takesApart({ panel, fasteners = [], opens = [] }: StripStep): boolean {
  return panel !== undefined || fasteners.length > 0 || opens.length > 0;
}

/** Before the first panel comes off: does the kit fit, and does the radio have the firmware for it? */
function firstPanel({ plan, state, view }: Pressing, step: StripStep): Stop | null {
  const begun = view.done.some((d) => view.route.plan.steps.some((s) => s.id === d.id && takesApart(s)));
  const { kit } = plan.documents;
  if (begun || isBlank(kit) || !takesApart(step)) return null;
  const verdict = verdictOf(plan);
  if (verdict.level === "impossible")
    return refused(
      "fit",
      kit.title,
      `${kit.title} does not fit this car: ${verdict.text}`,
      "Choose another kit in Fit.",
    );
  const below = firmwareBelow(plan);
  if (below === undefined) return null;
  const { present, steps } = plan.firmware;
  if (present !== "")
    return refused(
      "firmware",
      "firmware",
      `The radio has ${present}; ${kit.title} needs ${below} or newer.`,
      steps.length > 0
        ? `Update to ${steps.at(-1)?.to} first, in Configure.`
        : "No update leads there: choose another kit in Fit.",
    );
  if (state.unread.has("firmware")) return null;
  return {
    guard: "firmware",
    where: "firmware",
    problem: `${kit.title} needs firmware ${below} or newer, and nobody has read which version the radio has.`,
    remedy: "Read it on the version screen and enter it in Intake.",
    answer: "asks",
    say: "It cannot be read before the radio is out",
    first: [{ kind: "intake.unread", data: { what: "firmware", reason: "not shown before the radio is out" } }],
  };
}

/** A hole, a cut and a soldered joint stay: somebody has looked behind, and the customer has signed. */
function lasting({ plan, state }: Pressing, step: StripStep): Stop | null {
  if (!step.lasting || state.strip.stepEvents.some((e) => e.step === step.id)) return null;
  const unseen = step.lasting === "hole" && !state.strip.behind.has(step.id);
  return cannotBeUndone(step.title, unseen, signatureOf(plan, state));
}

/** What speaks against something that stays in the car for good. */
export function cannotBeUndone(title: string, unseen: boolean, signature: Signature): Stop | null {
  const unsigned = unsignedWords(signature);
  if (unsigned)
    return refused(
      "lasting",
      title,
      `${title}: it cannot be undone. ${unsigned}`,
      "Show the offer in Fit and have it signed, or take the way without it.",
    );
  return unseen
    ? refused(
        "lasting",
        title,
        `${title}: nobody has looked and felt behind it.`,
        "Look and feel behind first, then note it.",
      )
    : null;
}

/** What a preparation step of the plan wants to stand before. */
function beforePrepStep({ view, car }: Pressing, sets: Parameters<typeof bringing>[1]): Stop | null {
  if (sets.key === "off" && car.selector !== "P" && !car.rolling)
    return asksFor("selector", car, { selector: "P" }, "The key comes out in park only.");
  const pedal = view.route.plan.selectorRelease !== "tab";
  if (sets.selector && sets.selector !== "P" && pedal && car.key !== "on" && car.key !== "running")
    return asksFor(
      "key",
      car,
      { key: "on", battery: "connected" },
      "The pedal releases the selector with the ignition on only.",
    );
  return null;
}
