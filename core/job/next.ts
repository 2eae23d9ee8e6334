/** The one thing to do now in a job, and why. */
import type { JobState } from "../log/entry";
import { isFailure } from "../log/kinds/prove/result";
import type { Stage } from "../log/stages";
import { lowerFirst } from "../model/labels";
import type { Round } from "../prove/rounds";
import { backKey } from "../strip/back-key";
import type { StripView } from "../strip/view";
import { decodeIdentification } from "../vehicle/identification";
import { isBlank } from "./blank";
import { doNotSwitchOn } from "./car-state";
import type { Job } from "./job";
import { unlocked } from "./locks";
import { configure, firmware, loading } from "./next-configure";
import { awaitsFeed, type JobPlan, openNow } from "./plan";
import { isOpen, type OpenTest, openTests } from "./rounds";
import { isSet } from "./set-state";

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
  if (!state.choices)
    return {
      stage: "fit",
      at: "ledger",
      action: "Read what changes, then confirm kit and choices",
      why: "Leads, tests and the customer's card follow from it.",
    };
  // Once the work has begun it waits until the car is handed over.
  return state.signed || state.strip.stepEvents.length > 0
    ? null
    : {
        stage: "fit",
        at: "sign",
        action: "Have the offer signed",
        why: "What is opened, given up and paid is agreed before the first panel comes off.",
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
  const [ribbon] = unlocked(plan, state);
  if (ribbon)
    return {
      stage: "connect",
      at: ribbon.link,
      action: `Shut the lock bar: ${ribbon.say}`,
      why: "A ribbon that is not locked slides out; nothing is switched on before.",
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
