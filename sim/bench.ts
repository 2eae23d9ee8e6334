import { type CodingMap, fieldPlaces } from "../core/coding/map";
import { shownAt, signsOf } from "../core/diagnose/checks";
import type { Hypothesis } from "../core/diagnose/hypothesis";
import { rightForCar, settingsOfWords } from "../core/job/coding";
import { type JobPlan, openNow } from "../core/job/plan";
import { sequencesOf } from "../core/job/sequences";
import { deliveredValue } from "../core/job/set-state";
import { hypothesesOfPlan, looksOfPlan } from "../core/job/suspects";
import { translatedModules } from "../core/job/translated-modules";
import type { JobState } from "../core/log/entry";
import type { TestAnswer } from "../core/log/kinds/prove/result";
import { mergeDisturbances } from "../core/model/disturbance";
import { predictedCodes } from "../core/model/monitors";
import { Model } from "../core/model/outcome";
import { answerOf, readSight, type Sight as Seen, sightKey, sightWords } from "../core/model/sight";
import type { Settings, Situation, System } from "../core/model/types";
import { playsAt } from "../core/prove/corner-sound";
import type { Corner, Heard } from "../core/prove/corners";
import type { Sight } from "../core/prove/sequence-sights";
import { glassOf, picturesAt } from "../core/prove/sequences";
import type { Test } from "../core/prove/tests";
import type { StandInCar } from "./control-units";
import { toldIn } from "./translated";

/** What the stand-in car shows when a test is tried on it. */
export interface Observation {
  answer: TestAnswer;
  /** What is there instead of what should be. */
  seen: Seen | null;
  sees: string;
}

/** What a stand-in car hides, one a line, as long as no repair removed it. */
function hiddenIn(plan: JobPlan, state: JobState, hidden: string | null): Hypothesis[] {
  const left = (hidden ?? "").split("\n").filter((id) => !state.repairs.some((r) => r.fault === id));
  return hypothesesOfPlan(plan).filter((h) => left.includes(h.id));
}

const disturbancesOf = (hidden: readonly Hypothesis[]) => hidden.flatMap((h) => (h.fault ? [h.fault.disturbance] : []));

/** While nobody has touched the car it is as it was built. */
function systemNow({ stock, fitted }: JobPlan, { plugged, strip }: JobState): System {
  return plugged.size === 0 && strip.stepEvents.length === 0 ? stock : fitted;
}

/** The whole car as it stands, for its fault memory. */
export function asItStands(plan: JobPlan, state: JobState, faultId: string | null): Model {
  const hidden = disturbancesOf(hiddenIn(plan, state, faultId));
  const disturbance = mergeDisturbances([openNow(plan, state), ...hidden]);
  return new Model(systemNow(plan, state), disturbance);
}

/** The control units of the stand-in car, as the job has plugged them so far. */
export function standInCar(plan: JobPlan, state: JobState, faultId: string | null, map: CodingMap): StandInCar {
  const { openLinks, settings } = openNow(plan, state);
  const hidden = disturbancesOf(hiddenIn(plan, state, faultId));
  // Coded words are the units' own: what the job thinks of them is no disturbance here.
  const system = systemNow(plan, state);
  const car = new Model(system, mergeDisturbances([{ openLinks }, ...hidden]));
  const places = fieldPlaces(map);
  return {
    map,
    delivered: (setting) => deliveredValue(plan.fitted, setting),
    allowed(ref) {
      const place = places.find((p) => p.ref === ref);
      return place ? rightForCar(plan, place.field) : [];
    },
    alive: (part) => system.parts.every((p) => p.id !== part) || car.alive(part),
    known: (part) => (system.monitors ?? []).flatMap((m) => (m.by === part ? [m.code] : [])),
    codes: (part, words) =>
      predictedCodes(car, { ...plan.settings, ...settings, ...state.switches, ...settingsOfWords(map, words) })
        .filter((c) => c.part === part)
        .map((c) => c.code),
  };
}

/** The stand-in car as it is: the plan, as far as it is plugged and set, with what it hides. */
function carAsItIs(plan: JobPlan, state: JobState, hidden: readonly Hypothesis[]): Model {
  const disturbance = mergeDisturbances([openNow(plan, state), ...disturbancesOf(hidden)]);
  return new Model(plan.fitted, disturbance, settingsNow(plan, state));
}

function settingsNow(plan: JobPlan, { switches }: JobState): Settings {
  return { ...plan.settings, ...switches };
}

/** Tries a test on the stand-in car. */
export function observe(plan: JobPlan, state: JobState, faultId: string | null, testId: string): Observation {
  const test = plan.tests.find((t) => t.id === testId);
  if (!test) return { answer: "impossible", seen: null, sees: "This test does not belong to the job." };
  const hidden = hiddenIn(plan, state, faultId);
  const car = carAsItIs(plan, state, hidden);
  const modules = translatedModules(plan, state);
  const { translation, signals } = state;
  const settings = (situation: Situation) => ({
    ...settingsNow(plan, state),
    ...(translation ? toldIn(modules, translation, signals, situation) : {}),
  });
  const { outcome } = car.try(test.fn, test.situationId, settings);
  const seen = declaredSight(hidden, test) ?? car.sightOf(test.fn, test.situationId, settings);
  if (outcome.kind === "ok" && seen.what !== "works")
    return { answer: answerOf(seen), seen, sees: `It ${sightWords(sightKey(seen))}.` };
  return { answer: answerOf(seen), seen: seen.what === "works" ? null : seen, sees: words(outcome) };
}

/** What a cause that changes nothing in the graph shows at a test; null where it shows nothing. */
function declaredSight(hidden: readonly Hypothesis[], test: Test): Seen | null {
  for (const { shows } of hidden) {
    const most = shows?.(test).reduce((a, b) => (b[1] > a[1] ? b : a))[0];
    if (most && most !== "works") return readSight(most);
  }
  return null;
}

function words(outcome: ReturnType<Model["try"]>["outcome"]): string {
  switch (outcome.kind) {
    case "ok":
      return outcome.afterMs > 0 ? `Works after ${(outcome.afterMs / 1000).toFixed(1)} s.` : "Works.";
    case "absent":
      return "Nothing comes.";
    case "wrong":
      return `Comes, but ${outcome.attribute} is ${outcome.got}.`;
    case "doubled":
      return "Disturbed: two senders at once.";
    case "late":
      return `Comes only after ${(outcome.afterMs / 1000).toFixed(1)} s.`;
  }
}

/** What is seen or heard at a step of a sequence on the stand-in car. */
export function seeStep(plan: JobPlan, state: JobState, faultId: string | null, id: string, stepId: string): Sight {
  const step = sequencesOf(plan)
    .find((s) => s.id === id)
    ?.steps.find((s) => s.id === stepId);
  if (!step) return "dark";
  if (step.pictures === null)
    return step.test && observe(plan, state, faultId, step.test).answer === "pass" ? "asSaid" : "silent";
  const glass = glassOf(plan.fitted);
  const car = carAsItIs(plan, state, hiddenIn(plan, state, faultId));
  const shown = glass ? picturesAt(car, glass, step.situation, settingsNow(plan, state)) : [];
  if (shown.some((p) => step.pictures?.includes(p))) return "asSaid";
  return shown.includes("dark") ? "dark" : "other";
}

/** What plays on the stand-in car with balance and fader at one corner. */
export function hearCorner(plan: JobPlan, state: JobState, faultId: string | null, corner: Corner): Heard {
  const car = carAsItIs(plan, state, hiddenIn(plan, state, faultId));
  return playsAt(car, corner, settingsNow(plan, state));
}

/** Does a look or measurement on the stand-in car: one model of one car is enough. */
export function look(plan: JobPlan, state: JobState, faultId: string | null, checkId: string): string {
  const hidden = hiddenIn(plan, state, faultId);
  const open = openNow(plan, state).openLinks ?? {};
  if (checkId.startsWith("look:") && checkId.slice(5) in open) return "loose";
  const asked = looksOfPlan(plan).find((l) => l.id === checkId);
  if (!asked) return "";
  const asPlanned = new Model(plan.fitted, {}, plan.settings);
  const signs = signsOf(carAsItIs(plan, state, hidden), asPlanned, settingsNow(plan, state));
  const sound = shownAt(asked, null, signs);
  // The first thing that shows itself there.
  return hidden.map((h) => shownAt(asked, h, signs)).find((answer) => answer !== sound) ?? sound;
}
