/** What comes when everything is plugged: the tests, the way back, the tests behind it. */
import { isFailure } from "../../log/kinds/prove/result";
import { lowerFirst } from "../../model/labels";
import type { Round } from "../../prove/rounds";
import { backKey } from "../../strip/back-key";
import type { Gate } from "../../strip/gate";
import type { StripView } from "../../strip/view";
import type { BackTask } from "../../strip/way-back";
import type { Job } from "../job";
import { isOpen, type OpenTest } from "../rounds";
import { widerNow } from "../wider";
import { type Act, onPage } from "./act";

/** A test as one thing to do: after closing it is another one than with the dash open. */
export function testKey({ test, round }: Pick<OpenTest, "round"> & { test: { id: string } }): string {
  return round === "closed" ? `again ${test.id}` : test.id;
}

/** What leads to the bench test or may be closed before it. */
export function* beforeBench(view: StripView): Generator<Act> {
  if (view.gate !== "open") return;
  for (const task of view.back.filter((t) => !t.behindGate))
    yield {
      ...backStep(task, view),
      action: task.prepStep?.sets.battery ? "Connect the battery for the bench test" : task.title,
      why: task.prepStep
        ? "Everything is tried before a panel goes back. Nobody near open airbag plugs; key off while connecting."
        : "The upper dash is closed early on this job; what fails later opens it again.",
    };
}

/** What fails leads to its cause at once; where there is none to mend, to the way that was left for this case. */
export function* causes(job: Job): Generator<Act> {
  const { plan, state } = job;
  const failed = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value));
  if (failed[0])
    yield onPage({
      stage: "prove",
      at: "cause",
      action: "Find the cause and note the repair",
      why: `${failed.length === 1 ? "One test fails" : `${failed.length} tests fail`}: ${lowerFirst(failed[0].fn.name)}. The likely causes are ranked in Prove.`,
    });
  for (const way of widerNow(job))
    yield onPage(
      {
        stage: "prove",
        at: "cause",
        action: `If nothing is found: ${lowerFirst(way.wider)}`,
        why: `${way.label}, instead of ${lowerFirst(way.first)}.`,
      },
      way.minutes,
    );
}

const ROUND_WHY: Record<Round, string> = {
  bench: "with the dash open",
  closed: "after closing: a plug may have come off while the panels went back",
  yard: "on the closed yard, one driving, one looking",
};

export function* tests(open: readonly OpenTest[], ...rounds: Round[]): Generator<Act> {
  for (const round of rounds) {
    const mine = open.filter((o) => o.round === round);
    for (const next of mine) {
      const { fn, label, minutes } = next.test;
      yield {
        stage: "prove",
        at: testKey(next),
        action: `Try ${lowerFirst(fn.name)}${round === "closed" ? " again" : ""}, ${label}`,
        why: `${mine.length === 1 ? "1 test" : `${mine.length} tests`} left ${ROUND_WHY[round]}.`,
        does: { kind: "test", test: next.test, round },
        minutes,
      };
    }
  }
}

/** Everything that is off, in the order in which it goes back. */
export function* wayBack(view: StripView): Generator<Act> {
  for (const task of view.back) yield backStep(task, view);
}

const BACK_WHY: Record<Gate, string> = {
  passed: "All tests passed; nothing that stands on something goes back before it.",
  tried: "What could be tried passed; nothing that stands on something goes back before it.",
  passedOver: "The bench test was passed over on purpose.",
  open: "It goes back once everything was tried.",
};

function backStep(task: BackTask, view: StripView): Act {
  return {
    stage: "strip",
    at: backKey(task.id),
    action: task.title,
    why: BACK_WHY[view.gate],
    does: { kind: "step", task, direction: task.prepStep ? "in" : "back" },
    minutes: task.minutes.likely,
  };
}

/** The fault memory is read again when nothing is open any more, so that what it says is of the finished car. */
export function* codes({ state }: Job): Generator<Act> {
  if (!state.codesAfter)
    yield {
      stage: "prove",
      at: "codes",
      action: "Read the fault codes again",
      why: "What came during the work is put right before the car leaves; what was there before is not the shop's.",
      does: { kind: "codes" },
      minutes: 3,
    };
}

/** Panels are off, or the battery is. */
export const standsOpen = (view: StripView): boolean => isOpen(view) || view.car.battery === "isolated";
