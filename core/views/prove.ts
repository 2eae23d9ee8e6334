/** What Prove shows of a job. */

import { OUTPUTS } from "../bus/translation/translation";
import { tapePlan } from "../camera/tape-plan";
import { drawnDash } from "../drawing/dash";
import { speakerPlan } from "../drawing/plan";
import { cameraFigures, cameraStands, camerasOf, expectedOf, type JobCamera } from "../job/cameras";
import { cannotOf } from "../job/cannot";
import { jobEvidence } from "../job/evidence";
import type { Job } from "../job/job";
import { testKey } from "../job/order/after";
import { openNow, planKey, planState } from "../job/plan";
import { closedAt, repeatedTests } from "../job/rounds";
import { outcomeOf, sequencesOf } from "../job/sequences";
import { jobWalk, speakerPlug } from "../job/speaker-walk";
import { explainingSettings, touchOf, touchTests } from "../job/touch";
import { withoutRule } from "../job/translated-modules";
import { usesOf } from "../job/uses";
import { widerNow } from "../job/wider";
import { isFailure } from "../log/kinds/prove/result";
import { predictedCodes } from "../model/monitors";
import { Model } from "../model/outcome";
import { readSight, sightWords } from "../model/sight";
import type { System } from "../model/types";
import { alikeWith } from "../prove/alike";
import { compareCodes, sameCode } from "../prove/codes";
import { type Round, roundOf } from "../prove/rounds";
import { moveSteps } from "../prove/speaker-walk";
import { holdsOf, stateSteps } from "../prove/state-steps";
import { heardAt, observedAt, type Test, testHead } from "../prove/tests";
import { humGain, polarityOutcome } from "../sound/polarity";
import { scannedCodes } from "./coding";
import { testStop } from "./test-stop";
import { whereOnDash } from "./where";

/** @param now ISO 8601, UTC */
export function proveView(job: Job, now: string) {
  const { state, plan } = job;
  const closed = closedAt(state, job.strip(now));
  const last = state.tries.at(-1)?.test;
  const from = plan.tests.find((t) => t.id === last)?.situation ?? null;
  const failing = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value)).length;
  const openTests = { bench: openIn("bench"), closed: openIn("closed"), yard: openIn("yard") };
  const rounds = plan.tests.map((t) => inRound(t, roundOf(t)));
  const again = repeatedTests(plan).map((t) => inRound(t, "closed"));
  return {
    /** Every test of every round, in the order of trying. */
    tests: [...rounds.filter((t) => t.round === "bench"), ...again, ...rounds.filter((t) => t.round === "yard")],
    dash: drawnDash(plan.documents.car, plan.documents.variant),
    above:
      job.once("above", () => plan.documents.car.drawings?.plan && speakerPlan(plan.documents.car.drawings.plan)) ??
      null,
    panelsOff: job.strip(now).car.panelsOff,
    /** Behind what each part sits; asked for when a cause is looked for. */
    where: failing > 0 || state.codesAfter ? job.once("where", () => whereOnDash(plan, state.placed)) : {},
    evidence: job.once("evidence", () => jobEvidence(plan, state)),
    plan: { key: planKey(plan.documents, state), state: planState(state) },
    repairs: state.repairs.map((r) => ({ ...r, proof: proofOf(job, r) })).toReversed(),
    codes: codesView(job, now),
    /** What is no fault when somebody reports it. */
    cannot: job.once("cannot", () => cannotOf(plan)),
    /** What the module is not told by the translation that it holds. */
    withoutRule: withoutRule(plan, state).map((m) => OUTPUTS[m.output].name),
    walk: job.once("walk", () => walkView(job)),
    hum: humView(job),
    /** Logs on which the angle of the steering wheel can be followed, and by which rule. */
    steering: steeringView(job),
    uses: usesOf(plan).map((u) => ({ ...u, tried: state.uses.get(u.id) ?? null })),
    sequences: sequencesOf(plan).map((s) => ({
      ...s,
      steps: s.steps.map(({ id, say, must, pictures, test }) => ({ id, say, must, test, heard: pictures === null })),
      seen: Object.fromEntries(state.seen.get(s.id) ?? []),
      outcome: outcomeOf(state, s),
    })),
    cameras: job.once("cameras", () => camerasOf(plan).map((c) => cameraView(job, c))),
    touch: touchTests(plan).map((t) => touchView(job, t)),
    /** Ways with more work that were left for the case that something fails, each with the choices that take it. */
    wider: widerNow(job).map((way) => ({ ...way, choices: { ...plan.chosen, [way.choice]: way.option } })),
    openLeads: Object.keys(openNow(plan, state).openLinks ?? {}).length,
    failing,
    /** Codes that came with the work and that a control unit of this car stores by what it watches. */
    strangeCodes: strangeCodes(job),
  };

  function openIn(round: Round): Test[] {
    const mine = round === "closed" ? repeatedTests(plan) : plan.tests.filter((t) => roundOf(t) === round);
    return mine.filter((t) => open(t, round));
  }

  /** It can be tried in a round and was not yet. */
  function open(t: Test, round: Round): boolean {
    const noted = state.results.get(t.id);
    if (round !== "closed") return !noted;
    return closed !== null && (noted?.at ?? "") < closed;
  }

  function otherwise(test: string, noted: { value: string; by: string }) {
    const since = state.repairs.at(-1)?.at ?? "";
    return (
      state.tries.findLast((t) => t.test === test && t.at > since && t.by !== noted.by && t.answer !== noted.value) ??
      null
    );
  }

  /** A test as one thing to try. What was tried with the dash open counts after closing only when tried again. */
  function inRound(t: Test, round: Round) {
    const noted = state.results.get(t.id) ?? null;
    const counts = round !== "closed" || (closed !== null && !open(t, round));
    const about = aboutTest(t, plan.fitted);
    return {
      ...about,
      key: testKey({ test: t, round }),
      round,
      /** It cannot be tried before the car is closed. */
      waits: round === "closed" && closed === null,
      /** Others of the round that are open and want car and phone just so. */
      alike: open(t, round) || isFailure(noted?.value) ? alikeWith(t, openTests[round]).map((o) => o.id) : [],
      noted: counts ? noted : null,
      /** What was there instead, in words; null where nobody said more than the answer. */
      instead: counts && noted && noted.sight !== noted.value ? seenText(noted.sight, about.heard) : null,
      /** What somebody else has answered otherwise since the last repair. */
      otherwise: counts && noted ? otherwise(t.id, noted) : null,
      /** It did not work, or was not there, when the car came in. */
      failedBefore: ["fail", "absent"].includes(state.baseline.get(t.id)?.value ?? ""),
      /** What speaks against an answer as the car stands. */
      stop: open(t, round) ? testStop(job, t, now) : null,
      /** What to set before it, against how the last test left car and phone. */
      steps: stateSteps(t, plan.fitted, from),
    };
  }
}

/** A plan is never changed, so what it says of a test is kept as long as the test is. */
const known = new WeakMap<Test, ReturnType<typeof sayOf>>();

function aboutTest(test: Test, fitted: System): ReturnType<typeof sayOf> {
  const about = known.get(test) ?? sayOf(test, fitted);
  known.set(test, about);
  return about;
}

/** What the plan says of a test, whatever was tried. */
function sayOf(t: Test, fitted: System) {
  return {
    ...testHead(t),
    minutes: t.minutes,
    sense: t.sense,
    withinS: t.fn.withinMs === undefined ? null : t.fn.withinMs / 1000,
    /** Keys to hold before it, with how long. */
    holds: holdsOf(t, fitted),
    /** What can be met at it and is no fault. */
    normal: (fitted.normal ?? []).filter((n) => n.functions.includes(t.fn.id)),
    /** Parts at which a person looks or listens. */
    at: observedAt(t),
    /** Loudspeakers that must all sound. */
    heard: heardAt(t, fitted),
  };
}

/** The walk with balance and fader; null where the documents do not say which contacts carry the loudspeakers. */
function walkView({ plan, state }: Job) {
  const plug = speakerPlug(plan);
  const outcome = jobWalk(plan, state);
  if (!plug || !outcome) return null;
  const moves = outcome.kind === "exchanged" ? outcome.moves : [];
  return {
    heard: [...state.walk].map(([corner, n]) => ({ corner, plays: n.value, by: n.by })),
    outcome,
    steps: moves.length > 0 ? moveSteps(moves) : [],
    plug: {
      name: plug.name,
      port: plug.port,
      moves: Object.fromEntries(moves.map((m) => [m.from, `goes to ${m.to}`])),
    },
    polarity: polarityOutcome(state.ear, state.microphone),
    ear: Object.fromEntries(state.ear),
    microphone: Object.fromEntries(state.microphone),
    /** How often contacts were moved before. */
    moved: state.contactMoves.length,
  };
}

/** A camera: how it is to look, the marks to set, what was measured and what follows. */
function cameraView({ plan, state }: Job, camera: JobCamera) {
  const { id, name, looks } = camera;
  const { wanted, measured, ...follows } = cameraStands(plan, state, camera);
  const marks = tapePlan(wanted.camera, looks);
  const sights = state.sights.get(id);
  return {
    id,
    name,
    looks,
    wanted,
    /** What the search for the pose begins with. */
    expected: expectedOf(wanted),
    marks,
    measured,
    sighting: sights?.sight?.value.sighting ?? null,
    by: sights?.sight?.by ?? null,
    turned: (sights?.turned ?? []).map(({ value, by, at }) => ({ turns: value.turns, by, at })),
    ...follows,
    taken: state.reverseTimes.get(id)?.value ?? null,
    figures: cameraFigures(plan, state, camera),
  };
}

/** Hum with and without a ground lead, and what the lead takes away. */
function humView({ state }: Job) {
  const takes = new Map([...state.hum].map(([ground, n]) => [ground, n.value]));
  return { takes: Object.fromEntries(takes), gain: humGain(takes) };
}

function steeringView({ state }: Job) {
  const rule = state.translation?.rules.find((r) => r.output === "steering" && r.level);
  const logs = state.files.filter((f) => f.what === "log").map(({ file, name }) => ({ file, name }));
  return rule && logs.length > 0 ? { rule, signals: [...state.signals], logs } : null;
}

/** The touch panel in one picture. */
function touchView(job: Job, test: Test) {
  const { plan, state } = job;
  const outcome = touchOf(state, test);
  const wrong = outcome.kind !== "right" && outcome.kind !== "open";
  return {
    test: test.id,
    name: test.fn.name,
    reacted: [...(state.touch.get(test.id) ?? [])].map(([target, at]) => ({ target, at })),
    outcome,
    /** Settings that would explain it by the model. */
    settings: wrong ? job.once(`touch ${test.id}`, () => explainingSettings(plan, state, test)) : [],
  };
}

/** “some loudspeakers silent: right rear”. */
function seenText(sight: string, heard: ReturnType<typeof heardAt>): string {
  const { right } = readSight(sight);
  const wrong = right
    ? heard.filter((h) => !right.includes(h.contact)).map((h) => h.name.replace(/ loudspeaker$/, ""))
    : [];
  return [sightWords(sight), wrong.join(", ")].filter(Boolean).join(": ");
}

function strangeCodes({ plan, state }: Job): string[] {
  if (!state.codesAfter) return [];
  const { came } = compareCodes(state.car.faultCodes, state.codesAfter.value);
  const watched = (plan.fitted.monitors ?? []).map((m) => m.code);
  return came.map((c) => c.code).filter((code) => watched.some((w) => sameCode(w, code)));
}

function codesView(job: Job, now: string) {
  const { state, plan } = job;
  return {
    before: state.car.faultCodes,
    scanned: scannedCodes(job),
    after: state.codesAfter,
    compared: state.codesAfter ? compareCodes(state.car.faultCodes, state.codesAfter.value) : null,
    /** What control units would store with everything as it stands. */
    predicted: job.once("predictedCodes", () =>
      predictedCodes(new Model(plan.fitted, openNow(plan, state)), plan.settings),
    ),
    /** All tests are answered and the car is closed again. */
    due: job.next(now).at === "codes",
  };
}

type Proof = "passed" | "failing" | "open";

/** Whether what failed before a repair has passed since: a repair alone proves nothing. */
function proofOf({ plan, state }: Job, { tests, again, normal }: Job["state"]["repairs"][number]): Proof {
  const failed = tests.length > 0 ? tests : again;
  const answers = plan.tests.flatMap((t) =>
    failed === null || failed.includes(t.id) ? [state.results.get(t.id)?.value] : [],
  );
  if (answers.some(isFailure)) return "failing";
  return answers.every((a) => a === "pass") && (answers.length > 0 || normal) ? "passed" : "open";
}
