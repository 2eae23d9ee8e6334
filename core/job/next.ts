import { compareSwitches } from "../configure/switches";
import { backWords, type CarState, carState, type Hazard, stateHazards, stepHazards, wayBack } from "../strip/state";
import { decodeIdentification } from "../vehicle/identification";
import { isBlank } from "./blank";
import type { Stage } from "./entry";
import { type JobPlan, openedByDeeds, openNow } from "./plan";
import type { JobState } from "./state";

/** The one thing to do now, and why. */
export interface NextAction {
  stage: Stage;
  action: string;
  why: string;
}

/** The car state strip: computed from what was done, never typed. */
export interface JobCarState extends CarState {
  /** Factory plugs open now, those between which the kit sits left out once the kit is plugged. */
  openPlugs: string[];
  modulePower: "on" | "off";
  hazards: Hazard[];
}

/** The car as the entries of the job leave it. */
export function jobCarState(plan: JobPlan, state: JobState): JobCarState {
  const car = carState(plan.documents.car.stripPlan, state.deeds);
  const open = openNow(plan, state).openLinks ?? {};
  const openPlugs = car.plugsOpen
    .filter((ends) => openedByDeeds(plan, state, ends))
    .filter((ends) => {
      const back = plan.connections.filter((c) => [c.a, c.b].some((p) => p === ends.a || p === ends.b));
      return back.length === 0 || back.some((c) => c.link in open);
    })
    .map((ends) => ends.b);
  const kitOpen = plan.connections.some((c) => c.kind === "kit" && c.link in open);
  const stateWithPlugs = { ...car, plugsOpen: car.plugsOpen.filter((e) => openPlugs.includes(e.b)) };
  const powered = car.battery === "connected" && !kitOpen && state.plugged.size > 0;
  return { ...stateWithPlugs, openPlugs, modulePower: powered ? "on" : "off", hazards: stateHazards(stateWithPlugs) };
}

/** How far a job is: the first stage that has something left to do. */
export function nextAction(plan: JobPlan, state: JobState, thisYear: number): NextAction {
  if (state.closed)
    return {
      stage: "handover",
      action: "Nothing left, the job is closed",
      why: "Certificate and export stay available.",
    };
  return (
    intake(plan, state, thisYear) ??
    choose(plan, state) ??
    stripIn(plan, state) ??
    connect(plan, state) ??
    configure(plan, state) ??
    prove(plan, state) ??
    stripBack(plan, state) ?? {
      stage: "handover",
      action: "Show the customer, then close the job",
      why: "All tests passed and everything is back in place.",
    }
  );
}

function intake(plan: JobPlan, state: JobState, thisYear: number): NextAction | null {
  const decoded = decodeIdentification(state.car.identification, plan.documents.car.identification, thisYear + 1);
  if (!decoded.complete)
    return {
      stage: "intake",
      action: "Enter the identification number",
      why: "It decides the year and the gearbox, and with them the kit.",
    };
  if (isBlank(plan.documents.variant))
    return {
      stage: "intake",
      action: "Find out which radio it is",
      why: "Baseline, kits and leads all depend on the radio variant.",
    };
  const open = plan.baseline.filter((t) => !state.baseline.has(t.id));
  const first = open[0];
  if (first)
    return {
      stage: "intake",
      action: `Baseline: try ${lower(first.fn.name)}, ${first.label}`,
      why: `${open.length} of ${plan.baseline.length} tries left. What is not written down before becomes the shop's fault after.`,
    };
  return null;
}

function choose(plan: JobPlan, state: JobState): NextAction | null {
  if (isBlank(plan.documents.kit))
    return {
      stage: "fit",
      action: "Choose the kit",
      why: "The kits of the library are ranked by what the customer wants.",
    };
  return state.choices
    ? null
    : {
        stage: "fit",
        action: "Read the ledger and confirm kit and choices",
        why: "Leads, tests and the customer's card follow from it.",
      };
}

/** The next step of the way in, until everything was reached once; later the way back counts. */
function stripIn(plan: JobPlan, state: JobState): NextAction | null {
  const ever = new Set(state.deeds.map((d) => d.step));
  const step = plan.steps.find((s) => !ever.has(s.id));
  if (!step) return null;
  const hazard = stepHazards(carState(plan.documents.car.stripPlan, state.deeds), step)[0];
  return { stage: "strip", action: step.title, why: hazard?.text ?? step.detail };
}

function connect(plan: JobPlan, state: JobState): NextAction | null {
  const open = openNow(plan, state).openLinks ?? {};
  const left = plan.connections.filter((c) => c.link in open);
  const first = left[0];
  return first
    ? {
        stage: "connect",
        action: first.say,
        why: `${left.length} of ${plan.connections.length} connections left before the bench test.`,
      }
    : null;
}

function configure(plan: JobPlan, state: JobState): NextAction | null {
  const left = plan.sets.filter((s) => !state.made.has(s.setting));
  if (left[0])
    return {
      stage: "configure",
      action: left[0].say,
      why: `${left.length} of ${plan.sets.length} settings left. Without it the kit behaves as delivered.`,
    };
  const bank = plan.documents.kit.switchBank;
  if (!bank || !plan.switches?.settings) return null;
  if (!state.switches)
    return {
      stage: "configure",
      action: "Set the switch bank and enter how it stands",
      why: "The module reads it at power-up only; a wrong switch looks like a wrong lead.",
    };
  const wrong = compareSwitches(plan.switches, bank, state.switches)[0];
  if (wrong)
    return {
      stage: "configure",
      action: `Set switch ${wrong.place} to ${wrong.should}`,
      why: wrong.breaks.length ? `As it stands it breaks: ${wrong.breaks.join(", ")}.` : "It should stay as delivered.",
    };
  if (!state.powerCycled)
    return {
      stage: "configure",
      action: "Take the power from the module once",
      why: "It reads the switches at power-up only.",
    };
  return null;
}

function prove(plan: JobPlan, state: JobState): NextAction | null {
  const car = carState(plan.documents.car.stripPlan, state.deeds);
  if (car.battery === "isolated")
    return {
      stage: "strip",
      action: "Connect the battery for the bench test",
      why: "Everything is tried before any panel goes back. Nobody near open airbag plugs; key off while connecting.",
    };
  const failed = plan.tests.filter((t) => isFailure(state.results.get(t.id)?.value));
  if (failed[0])
    return {
      stage: "prove",
      action: "Find the cause and note the repair",
      why: `${failed.length === 1 ? "One test fails" : `${failed.length} tests fail`}: ${lower(failed[0].fn.name)}. The likely causes are ranked in Prove.`,
    };
  const open = plan.tests.filter((t) => !state.results.has(t.id));
  const next = open[0];
  return next
    ? {
        stage: "prove",
        action: `Try ${lower(next.fn.name)}, ${next.label}`,
        why: `${open.length} of ${plan.tests.length} tests left.`,
      }
    : null;
}

/** True for an answer that means the test did not pass. */
export function isFailure(answer: string | undefined): boolean {
  return answer === "nothing" || answer === "wrong" || answer === "late";
}

function stripBack(plan: JobPlan, state: JobState): NextAction | null {
  const last = new Map<string, string>();
  for (const d of state.deeds) last.set(d.step, d.direction);
  const off = new Set([...last].filter(([, direction]) => direction === "in").map(([step]) => step));
  const step = wayBack(plan.documents.car.stripPlan, off)[0];
  return step
    ? {
        stage: "strip",
        action: backWords(step).title,
        why: "All tests passed; close from the deepest part outwards.",
      }
    : null;
}

function lower(text: string): string {
  return text.charAt(0).toLowerCase() + text.slice(1);
}
