import { fieldPlaces, wordRef } from "../coding/map";
import { plugState } from "../configure/programming-plug";
import { compareSwitches } from "../configure/switches";
import type { Finding } from "../connect/rules";
import { mediumWords } from "../fit/firmware";
import type { JobState } from "../log/entry";
import { isFailure } from "../log/kinds/prove/result";
import type { Stage } from "../log/stages";
import { lowerFirst } from "../model/labels";
import type { KitSetting } from "../model/profile";
import type { Round } from "../prove/rounds";
import type { CarState } from "../strip/car-state";
import type { Hazard } from "../strip/hazards";
import { backKey, type StripView, stripView } from "../strip/view";
import { decodeIdentification } from "../vehicle/identification";
import { isBlank } from "./blank";
import type { Job } from "./job";
import { pairingOpen } from "./pairing";
import { phonesOf } from "./phones";
import { awaitsFeed, isSet, type JobPlan, openNow, stripInput } from "./plan";
import { isOpen, type OpenTest, openTests } from "./rounds";

/** The one thing to do now, and why. */
export interface NextAction {
  stage: Stage;
  action: string;
  why: string;
  /** A page of the stage beside its main one. */
  page?: "feed";
  /** The thing on its surface that it is about, by its identifier there. */
  at?: string;
  /** How far the job is, where that is not the stage of the action. */
  reached?: Stage;
}

/** The car state strip: computed from what was done, never typed. */
export interface JobCarState extends CarState {
  modulePower: "on" | "off";
  hazards: Hazard[];
  /** What is connected so that the power must stay off; null when nothing is. */
  wrong: { where: string; text: string; remedy: string } | null;
}

/** The strip view of a job, with what the shop's closed jobs measured when that is known. */
export function jobStripView(plan: JobPlan, state: JobState, now: string, measured?: Record<string, number[]>) {
  return stripView(stripInput(plan, state, measured), state.strip, now);
}

/**
 * The car as the entries of the job leave it.
 *
 * @param now ISO 8601, UTC
 */
export function jobCarState(job: Job, now: string): JobCarState {
  const view = job.strip(now);
  return {
    ...view.car,
    modulePower: noPower(job, now) ? "off" : "on",
    hazards: view.hazards,
    wrong: doNotSwitchOn(job)[0] ?? null,
  };
}

/**
 * Why the module is without power; null when it has power.
 *
 * @param now ISO 8601, UTC
 */
export function noPower(job: Job, now: string): string | null {
  const { plan, state } = job;
  if (job.strip(now).car.battery === "isolated") return "The battery is off.";
  if (state.powerOut !== null) return "Its plug is out for the power cycle.";
  const open = openNow(plan, state).openLinks ?? {};
  const left = plan.connections.filter((c) => c.kind === "kit" && c.link in open);
  if (left.length > 0)
    return left.length === 1 ? "1 connection of the kit is open." : `${left.length} connections of the kit are open.`;
  return state.plugged.size > 0 ? null : "Nothing of the kit is plugged.";
}

/**
 * How far a job is: the first stage that has something left to do.
 *
 * @param now ISO 8601, UTC
 */
export function nextAction(job: Job, now: string): NextAction {
  const { plan, state } = job;
  const view = job.strip(now);
  if (state.closed)
    return {
      stage: "handover",
      at: "papers",
      action: "Nothing left, the job is closed",
      why: "Certificate and export stay available.",
    };
  const wrong = putRight(job);
  const usual: NextAction = intake(plan, state, Number(now.slice(0, 4))) ??
    choose(plan, state) ??
    loading(plan, state) ??
    firmware(plan, state) ??
    stripIn(view) ??
    connect(plan, state) ??
    configure(job, view) ??
    prove(plan, state, view) ??
    // With everything closed the last tests come before the key goes out again.
    (isOpen(view) || view.car.battery === "isolated" ? stripBack(view) : null) ??
    tryNext(openTests(plan, state, view), "closed", "yard") ??
    codes(state) ??
    stripBack(view) ?? {
      stage: "handover",
      at: "close",
      action: "Show the customer, then close the job",
      why: "All tests passed and everything is back in place.",
    };
  return wrong ? { ...wrong, reached: usual.stage } : usual;
}

/** What is connected so wrongly that nobody may switch on. */
export function doNotSwitchOn({ state, findings }: Job): Finding[] {
  // While nothing of the kit is in the car there is nothing that could be connected wrongly.
  const begun = state.plugged.size > 0 || state.tapLit !== null;
  return begun ? findings.filter((f) => f.level === "stop") : [];
}

/** A wrong connection that stops the job comes before everything else: somebody may switch on. */
function putRight(job: Job): NextAction | null {
  const [wrong] = doNotSwitchOn(job);
  return wrong
    ? { stage: "connect", at: "wrong", action: `Put right: ${wrong.where}`, why: `${wrong.text} ${wrong.remedy}` }
    : null;
}

function intake(plan: JobPlan, state: JobState, thisYear: number): NextAction | null {
  const decoded = decodeIdentification(state.car.identification, plan.documents.car.identification, thisYear + 1);
  if (!decoded.complete)
    return {
      stage: "intake",
      at: "car",
      action: "Enter the identification number",
      why: "It decides the year and the gearbox, and with them the kit.",
    };
  if (isBlank(plan.documents.variant))
    return {
      stage: "intake",
      at: "variant",
      action: "Find out which radio it is",
      why: "Baseline, kits and leads all depend on the radio variant.",
    };
  const open = plan.baseline.filter((t) => !state.baseline.has(t.id));
  const first = open[0];
  if (first)
    return {
      stage: "intake",
      at: first.id,
      action: `Baseline: try ${lowerFirst(first.fn.name)}, ${first.label}`,
      why: `${open.length} of ${plan.baseline.length} tries left. What is not written down before becomes the shop's fault after.`,
    };
  return null;
}

function choose(plan: JobPlan, state: JobState): NextAction | null {
  if (isBlank(plan.documents.kit))
    return {
      stage: "fit",
      at: "kits",
      action: "Choose the kit",
      why: "The kits of the library are ranked by what the customer wants.",
    };
  return state.choices
    ? null
    : {
        stage: "fit",
        at: "ledger",
        action: "Read what changes, then confirm kit and choices",
        why: "Leads, tests and the customer's card follow from it.",
      };
}

/** The next step of the way in, until everything was reached once; later the way back counts. */
function stripIn(view: StripView): NextAction | null {
  const task = view.left[0];
  return task ? { stage: "strip", at: task.id, action: task.title, why: task.caution ?? task.detail } : null;
}

function connect(plan: JobPlan, state: JobState): NextAction | null {
  const move = plan.sets.find((s) => s.moves?.length && !isSet(plan, state, s));
  if (move)
    return {
      stage: "connect",
      at: move.setting,
      action: move.say,
      why: "Contacts are moved before their plug goes in; after it the plug comes out again.",
    };
  const open = openNow(plan, state).openLinks ?? {};
  const left = plan.connections.filter((c) => c.link in open);
  const first = left[0];
  if (first && awaitsFeed(plan, state, first))
    return {
      stage: "connect",
      page: "feed",
      action: "Find a switched feed at the fuse panel",
      why: "The tester decides which position may be used; Connect, Feed asks the questions.",
    };
  return first
    ? {
        stage: "connect",
        at: first.link,
        action: first.say,
        why: `${left.length} of ${plan.connections.length} connections left before the bench test.`,
      }
    : null;
}

/** What is in a module is looked at before it is fitted; later it is one of the settings. */
function loading(plan: JobPlan, state: JobState): NextAction | null {
  const set = plan.sets.find((s) => s.means === "programming" && !isSet(plan, state, s));
  if (!set || state.plugged.size > 0) return null;
  const load = state.loads.get(set.setting);
  const at = { stage: "configure" as const, at: set.setting };
  if (!load)
    return {
      ...at,
      action: "Look what is loaded in the module",
      why: "A blank one, or one for another car, is found before it is fitted and not after.",
    };
  if (load.translation)
    return {
      ...at,
      action: "Load the translation into the module again",
      why: "It was changed since the module was loaded with it.",
    };
  return load.what === "blank"
    ? { ...at, action: "Load the module on the computer", why: `It is blank. ${set.say}.` }
    : { ...at, action: "Load the module anew, or get the right one", why: "It is loaded for another car." };
}

/** The radio's firmware comes first: what it cannot do no kit can make it do. */
function firmware(
  { firmware: { steps } }: JobPlan,
  { firmware: { running, interrupted } }: JobState,
): NextAction | null {
  const at = { stage: "configure" as const, at: "firmware" };
  if (running)
    return { ...at, action: `Update to ${running.to} is running`, why: "Say how it ended. Leave the maintainer on." };
  if (interrupted)
    return {
      ...at,
      action: "Save the interrupted update",
      why: "Which version the radio has is not known; nothing else is sure before it is.",
    };
  const [step] = steps;
  return step
    ? {
        ...at,
        action: `Update the firmware to ${step.to}`,
        why: `${step.minutes} min with the maintainer on. ${mediumWords(step)}.`,
      }
    : null;
}

function configure(job: Job, view: StripView): NextAction | null {
  const { car } = view;
  const { plan, state } = job;
  const plug = plan.documents.kit.programmingPlug;
  const stands = plug && plugState(state.plugEvents, plug);
  if (plug && stands?.inSocket)
    return {
      stage: "configure",
      at: plug.setting,
      action: stands.phase === "finished" ? "Take the programming plug out" : "Watch the programming plug",
      why: "It is in the diagnostic socket and never stays in the car.",
    };
  const first = leftToSet(job).find((s) => s.means !== "menu");
  if (first) return toSet(job, first);
  if (unproven(state))
    return {
      stage: "configure",
      at: "units",
      action: "Scan the control units again",
      why: "A word was written since the last scan; new fault codes would show now.",
    };
  const bank = plan.documents.kit.switchBank;
  const [way] = plan.switches?.conflict ?? [];
  if (way)
    return {
      stage: "configure",
      at: "conflict",
      action: "Choose what this car is to do without",
      why: "Not everything can be had together; how the switches must stand depends on it.",
    };
  if (!bank || !plan.switches?.settings) return onScreen(job, view);
  if (!state.switches)
    return {
      stage: "configure",
      at: "bank",
      action: "Set the switch bank and enter how it stands",
      why: "The module reads it at power-up only; a wrong switch looks like a wrong lead.",
    };
  const wrong = compareSwitches(plan.switches, bank, state.switches)[0];
  if (wrong)
    return {
      stage: "configure",
      at: "bank",
      action: `Set switch ${wrong.number} to ${wrong.should}`,
      why: wrong.breaks.length ? `As it stands it breaks: ${wrong.breaks.join(", ")}.` : "It should stay as delivered.",
    };
  // With the battery off there is no power to take; it comes up when the battery is connected for the tests.
  if (state.powerOut !== null)
    return {
      stage: "configure",
      at: "power-cycle",
      action: "Plug the module in again",
      why: "Its plug was pulled so that it reads the switches.",
    };
  if (!state.powerCycled && car.battery === "connected")
    return {
      stage: "configure",
      at: "power-cycle",
      action: "Take the power from the module once",
      why: "It reads the switches at power-up only.",
    };
  return onScreen(job, view);
}

/** Settings that are not made; what the pairing of a phone brings comes with the pairing. */
function leftToSet({ plan, state }: Job): KitSetting[] {
  return plan.sets.filter((s) => !isSet(plan, state, s) && s.setting !== plan.documents.kit.phone?.setting);
}

function toSet(job: Job, { setting, say, where }: KitSetting): NextAction {
  return {
    stage: "configure",
    at: wordOfSetting(job, setting) ?? setting,
    action: say,
    why: `${where ? `${where}. ` : ""}${leftToSet(job).length} of ${job.plan.sets.length} settings left. Without it the kit behaves as delivered.`,
  };
}

/** What needs a lit screen: the menus, then the first phone. */
function onScreen(job: Job, view: StripView): NextAction | null {
  if (view.car.battery !== "connected") return null;
  const menu = leftToSet(job).find((s) => s.means === "menu");
  return menu ? toSet(job, menu) : phone(job);
}

/** A phone is paired before the tests that need one, and once there is power. */
function phone(job: Job): NextAction | null {
  if (!pairingOpen(job)) return null;
  const [begun] = phonesOf(job.plan, job.state) ?? [];
  return {
    stage: "configure",
    at: "phone",
    action: begun?.step ? `${begun.phone}: ${lowerFirst(begun.step.title)}` : "Pair the first phone",
    why: "The order of cable and wireless decides whether it will come by wireless at all.",
  };
}

/** The coded word in which a setting lies, where the coding map of the job knows it. */
function wordOfSetting({ codingMap }: Job, setting: string): string | null {
  const place = codingMap && fieldPlaces(codingMap).find((p) => p.field.setting === setting && !p.unit.locked);
  return place ? wordRef(place.unit, place.word) : null;
}

/** A word was written and its unit not scanned since. */
function unproven({ words, units }: JobState): boolean {
  return [...words].some(([ref, events]) => {
    const written = events.findLast((e) => e.how === "written");
    const unit = units.get(ref.split(".")[0] ?? "");
    return written !== undefined && (unit?.codesAt ?? "") <= written.at;
  });
}

function prove(plan: JobPlan, state: JobState, view: StripView): NextAction | null {
  const before = view.next;
  if (before && !view.back[0]?.behindGate && view.gate === "open")
    return {
      stage: "strip",
      at: backKey(before.task.id),
      action: before.task.prepStep?.sets.battery ? "Connect the battery for the bench test" : before.task.title,
      why:
        before.direction === "back"
          ? "The upper dash is closed early on this job; what fails later opens it again."
          : "Everything is tried before a panel goes back. Nobody near open airbag plugs; key off while connecting.",
    };
  const failed = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value));
  if (failed[0])
    return {
      stage: "prove",
      at: "cause",
      action: "Find the cause and note the repair",
      why: `${failed.length === 1 ? "One test fails" : `${failed.length} tests fail`}: ${lowerFirst(failed[0].fn.name)}. The likely causes are ranked in Prove.`,
    };
  return tryNext(openTests(plan, state, view), "bench");
}

/** A test as one thing to do: after closing it is another one than with the dash open. */
export function testKey({ test, round }: Pick<OpenTest, "round"> & { test: { id: string } }): string {
  return round === "closed" ? `again ${test.id}` : test.id;
}

const ROUND_WHY: Record<Round, string> = {
  bench: "with the dash open",
  closed: "after closing: a plug may have come off while the panels went back",
  yard: "on the closed yard, one driving, one looking",
};

function tryNext(open: readonly OpenTest[], ...rounds: Round[]): NextAction | null {
  const next = open.find((o) => rounds.includes(o.round));
  if (!next) return null;
  const left = open.filter((o) => o.round === next.round).length;
  const { fn, label } = next.test;
  const again = next.round === "closed" ? " again" : "";
  return {
    stage: "prove",
    at: testKey(next),
    action: `Try ${lowerFirst(fn.name)}${again}, ${label}`,
    why: `${left === 1 ? "1 test" : `${left} tests`} left ${ROUND_WHY[next.round]}.`,
  };
}

/** The fault memory is read again when nothing is open any more, so that what it says is of the finished car. */
function codes(state: JobState): NextAction | null {
  return state.codesAfter
    ? null
    : {
        stage: "prove",
        at: "codes",
        action: "Read the fault codes again",
        why: "What came during the work is put right before the car leaves; what was there before is not the shop's.",
      };
}

function stripBack(view: StripView): NextAction | null {
  if (view.next && view.left.length === 0)
    return {
      stage: "strip",
      at: backKey(view.next.task.id),
      action: view.next.task.title,
      why:
        view.gate === "passed"
          ? "All tests passed; nothing that stands on something goes back before it."
          : "The bench test was passed over on purpose.",
    };
  return null;
}
