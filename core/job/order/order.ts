/**
 * The one order of a job: from intake to the closed car, in the order in which the hands do it. Each surface shows its
 * part of it, the board its first, step-by-step mode all of it.
 */

import { emptyJournal, noteStrip } from "../../log/fold";
import type { Stage } from "../../log/stages";
import { countWords } from "../../model/labels";
import { roundOf } from "../../prove/rounds";
import type { Task } from "../../strip/route";
import { type StripView, stripView } from "../../strip/view";
import { doNotSwitchOn } from "../car-state";
import type { Job } from "../job";
import { stripInput } from "../plan";
import { openTests, repeatedTests } from "../rounds";
import { type Act, onPage } from "./act";
import { beforeBench, causes, codes, standsOpen, tests, wayBack } from "./after";
import { choose, identity, intake, onTheBench } from "./before";
import { firmware, onTheAwakeCar, settings } from "./settings";
import { wayIn, wayInStep } from "./way-in";

/** The one thing to do now, and why. */
export type NextAction = Omit<Act, "does" | "minutes">;

/**
 * How far a job is: the first thing that is left to do.
 *
 * @param now ISO 8601, UTC
 */
export function nextAction(job: Job, now: string): NextAction {
  const [first] = acts(job, now);
  const { does: _, minutes: __, ...next } = first ?? closing(job);
  const wrong = putRight(job);
  return wrong ? { ...wrong, reached: next.reached ?? next.stage } : next;
}

/** Everything that is left to do, first things first. */
export function orderOf(job: Job, now: string): readonly Act[] {
  return job.once(`order ${now}`, () => {
    const wrong = putRight(job);
    return [...(wrong ? [onPage(wrong)] : []), ...acts(job, now), closing(job)];
  });
}

/**
 * Rows of a surface as the hands come to them: what is done first, then the rest in the order of the whole job, and what
 * does not stand in it last.
 *
 * @param row names a row as its act does, and says whether it is done
 */
export function inOrder<T>(
  job: Job,
  now: string,
  rows: readonly T[],
  row: (r: T) => { at: string; done: boolean },
): T[] {
  const places = new Map(
    orderOf(job, now)
      .map((a, i) => [a.at ?? "", i] as const)
      .reverse(),
  );
  const place = (r: T) => {
    const { at, done } = row(r);
    return done ? -1 : (places.get(at) ?? places.size + rows.length);
  };
  return rows.toSorted((a, b) => place(a) - place(b));
}

/** What is left, as somebody asks for it: most ask for the first thing only. */
function* acts(job: Job, now: string): Generator<Act> {
  const { plan, state } = job;
  if (state.closed) return;
  const view = job.strip(now);
  yield* intake(job, view, now);
  yield* choose(job, view);
  yield* towards("strip", onTheBench(job, view));
  yield* towards("strip", firmware(job));
  // Who has passed the bench test over closes first, whatever is still to be plugged.
  const over = view.gate === "passedOver" && view.left.length === 0 && standsOpen(view);
  if (over) yield* backAfter(view);
  yield* towards(view.left.length > 0 ? "strip" : undefined, wayIn(job, view, now));
  yield* settings(job, view);
  yield* towards("prove", beforeBench(view));
  yield* onTheAwakeCar(job);
  const open = openTests(plan, state, view);
  const bench = [...causes(job), ...tests(open, "bench")];
  if (view.left.length > 0) {
    yield* bench;
    yield* stillToCome(job, now);
  } else if (standsOpen(view)) {
    yield* bench;
    if (view.later.length > 0) return yield* stillToCome(job, now);
    if (!over) yield* backAfter(view);
    yield* later(job);
    yield* codes(job);
  } else {
    yield* bench;
    // With everything closed the last tests come before the key goes out again.
    yield* tests(open, "closed", "yard");
    yield* codes(job);
    yield* backAfter(view);
  }
  yield* towards("handover", identity(job, now));
}

/** Acts of one stage that belong to the way to another: how far a job is never goes back for them. */
function* towards(reached: Stage | undefined, list: Iterable<Act>): Generator<Act> {
  for (const act of list) yield reached && act.stage !== reached ? { ...act, reached } : act;
}

/** What goes back behind the bench test. */
function* backAfter(view: StripView): Generator<Act> {
  const back = view.gate === "open" ? view.back.filter((t) => t.behindGate) : view.back;
  yield* towards("prove", wayBack({ ...view, back }));
}

/** What follows the bench test: what waits for it, the way back as it will be once everything is off, the last tests. */
function* stillToCome(job: Job, now: string): Generator<Act> {
  const { plan, state } = job;
  const input = stripInput(plan, state);
  const journal = { ...emptyJournal(), ...structuredClone(state.strip) };
  const passed = { ...input, bench: { ...input.bench, passed: input.bench.tests } };
  const off = (tasks: readonly Task[]) => {
    for (const { id } of tasks)
      noteStrip(
        journal,
        { kind: "strip.step", data: { step: id, direction: "in" } },
        { at: now, by: "", entry: `later ${id}` },
      );
    return stripView(passed, journal, now);
  };
  const tried = off(job.strip(now).left);
  yield* towards("prove", tried.left.map(wayInStep));
  yield* towards("prove", wayBack(off(tried.left)));
  yield* later(job);
  yield* codes(job);
}

/** Tests that come when the car is closed. */
function* later({ plan, state }: Job): Generator<Act> {
  const yard = plan.tests.filter((t) => roundOf(t) === "yard" && !state.results.has(t.id));
  yield* tests(
    [
      ...repeatedTests(plan).map((test) => ({ test, round: "closed" as const })),
      ...yard.map((test) => ({ test, round: "yard" as const })),
    ],
    "closed",
    "yard",
  );
}

function closing({ plan, state }: Job): Act {
  const untried = plan.tests.filter((t) => state.results.get(t.id)?.value !== "pass").length;
  return state.closed
    ? onPage({
        stage: "handover",
        at: "papers",
        action: "Nothing left, the job is closed",
        why: "Certificate and export stay available.",
      })
    : onPage({
        stage: "handover",
        at: "close",
        action: "Show the customer, then close the job",
        why:
          untried === 0
            ? "All tests passed and everything is back in place."
            : `Everything is back in place. Not passed: ${countWords(untried, "test")}.`,
      });
}

/** A wrong connection that stops the job comes before everything else: somebody may switch on. */
function putRight(job: Job) {
  const [wrong] = job.state.closed ? [] : doNotSwitchOn(job);
  return wrong
    ? {
        stage: "connect" as const,
        at: "wrong",
        action: `Put right: ${wrong.where}`,
        why: `${wrong.text} ${wrong.remedy}`,
      }
    : null;
}
